package org.orderlyferry.office.xbase;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.orderlyferry.model.FreeNames;

/** Names of fields: at most ten bytes, letters, digits and underscores, each another one in any case. */
final class XbaseNames {

    private static final int LONGEST = 10;

    private XbaseNames() {}

    /** The names that a file can have for these. */
    static List<String> of(List<String> wanted) {
        FreeNames free = new FreeNames(n -> n.toUpperCase(Locale.ROOT));
        List<String> names = new ArrayList<>();
        for (String name : wanted) {
            String base = cut(name);
            names.add(free.give(base, number -> {
                String ending = "_" + number;
                return base.substring(0, Math.min(base.length(), LONGEST - ending.length())) + ending;
            }));
        }
        return names;
    }

    private static String cut(String name) {
        String plain = name.replaceAll("[^A-Za-z0-9_]", "_");
        String begun = plain.matches("[0-9_].*") ? "F" + plain : plain;
        return begun.substring(0, Math.min(LONGEST, begun.getBytes(StandardCharsets.US_ASCII).length));
    }

    /** Whether a name in a file may be what was made of another one. */
    static boolean isCutOf(String inFile, String name) {
        String cut = cut(name);
        int common = Math.min(Math.min(cut.length(), inFile.length()), LONGEST - 3);
        return inFile.equals(name)
                || cut.substring(0, common).equalsIgnoreCase(inFile.substring(0, Math.min(common, inFile.length())));
    }
}
