package org.orderlyferry.crossing;

import java.util.Collection;
import java.util.Comparator;
import java.util.Locale;
import java.util.Optional;

/** Finds the word that somebody may have meant, by the number of letters that differ (Levenshtein's distance). */
final class Nearest {

    private Nearest() {}

    static Optional<String> of(String given, Collection<String> words) {
        String wanted = given.toLowerCase(Locale.ROOT);
        int most = Math.max(2, wanted.length() / 3);
        return words.stream()
                .filter(w -> distance(wanted, w.toLowerCase(Locale.ROOT)) <= most)
                .min(Comparator.comparingInt(w -> distance(wanted, w.toLowerCase(Locale.ROOT))));
    }

    private static int distance(String one, String other) {
        int[] row = new int[other.length() + 1];
        for (int j = 0; j < row.length; j++) {
            row[j] = j;
        }
        for (int i = 1; i <= one.length(); i++) {
            int diagonal = row[0];
            row[0] = i;
            for (int j = 1; j < row.length; j++) {
                int changed = diagonal + (one.charAt(i - 1) == other.charAt(j - 1) ? 0 : 1);
                diagonal = row[j];
                row[j] = Math.min(changed, Math.min(row[j], row[j - 1]) + 1);
            }
        }
        return row[other.length()];
    }
}
