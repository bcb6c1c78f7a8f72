package org.orderlyferry.testkit.herbarium;

import java.util.Random;

/** Made-up names, put together from syllables. */
final class Names {

    private static final String[] FIRST = {
        "Vel", "Tar", "Quor", "Bri", "Osm", "Lin", "Fae", "Dru", "Cal", "Mir", "Zen", "Hul", "Ys", "Pell", "Gwa", "Nim"
    };
    private static final String[] MIDDLE = {"mo", "ni", "ra", "le", "vi", "so", "ka", "du", "ze", "pha"};
    private static final String[] GENUS_END = {"ra", "nia", "lis", "thus", "phyta", "carpa", "spora", "dium"};
    private static final String[] SPECIES_END = {"ensis", "folia", "ata", "oides", "escens", "ula", "ifera", "alis"};
    private static final String[] PERSON_END = {"quist", "mere", "lund", "wick", "dottir", "vane", "holt", "ska"};
    private static final String[] PLACE_END = {" Moor", " Fen", "holm", "dale", " Ness", "water", " Hythe", "beck"};

    private final Random random;

    Names(Random random) {
        this.random = random;
    }

    private String one(String[] of) {
        return of[random.nextInt(of.length)];
    }

    String family() {
        return one(FIRST) + one(MIDDLE) + one(MIDDLE) + "ceae";
    }

    String genus() {
        return one(FIRST) + one(MIDDLE) + one(GENUS_END);
    }

    String species() {
        return (one(FIRST) + one(MIDDLE)).toLowerCase(java.util.Locale.ROOT) + one(SPECIES_END);
    }

    String person() {
        return (char) ('A' + random.nextInt(26)) + ". " + one(FIRST) + one(MIDDLE) + one(PERSON_END);
    }

    String place() {
        return one(FIRST) + one(MIDDLE) + one(PLACE_END);
    }
}
