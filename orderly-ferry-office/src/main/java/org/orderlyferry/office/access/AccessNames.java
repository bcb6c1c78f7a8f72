package org.orderlyferry.office.access;

import java.util.Locale;
import org.orderlyferry.model.FreeNames;

/**
 * Names of tables, columns and indexes: at most 64 units of UTF-16, no points, exclamation marks, accents or brackets, no blank in
 * front, each another one in any case. Not safe for use by several threads.
 */
final class AccessNames {

    private static final int LONGEST = 64;

    private final FreeNames free = new FreeNames(n -> n.toLowerCase(Locale.ROOT));

    /** The name that the file has for one. */
    String of(String name) {
        String base = plain(name);
        return free.give(base, number -> {
            String ending = "_" + number;
            return cut(base, LONGEST - ending.length()) + ending;
        });
    }

    /** Whether a name in a file may be what was made of another one. */
    static boolean isMadeOf(String inFile, String name) {
        String base = plain(name);
        return inFile.equals(base)
                || inFile.matches(".*_\\d{1,5}") && base.startsWith(inFile.substring(0, inFile.lastIndexOf('_')));
    }

    private static String plain(String name) {
        String plain = name.replaceAll("[.!`\\[\\]\"\\p{Cntrl}]", "_").replaceFirst("^[ =]", "_");
        String whole = cut(plain, LONGEST).stripTrailing();
        return whole.isBlank() ? "_" : whole;
    }

    private static String cut(String text, int most) {
        if (text.length() <= most) {
            return text;
        }
        return text.substring(0, Character.isHighSurrogate(text.charAt(most - 1)) ? most - 1 : most);
    }
}
