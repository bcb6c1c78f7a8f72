package org.orderlyferry.office.sheet;

import java.util.Locale;
import org.orderlyferry.model.FreeNames;

/** Gives each sheet a name of its own that a spreadsheet takes: at most 31 characters, and none of {@code []:*?/\}. */
final class SheetNames {

    private static final int LONGEST = 31;

    private final FreeNames free = new FreeNames(n -> n.toLowerCase(Locale.ROOT));

    SheetNames() {
        free.take("history");
    }

    String of(String wanted) {
        StringBuilder plain = new StringBuilder(wanted.replaceAll("[\\[\\]:*?/\\\\\\p{Cntrl}]", "_"));
        for (int i : new int[] {0, plain.length() - 1}) {
            if (i >= 0 && plain.charAt(i) == '\'') {
                plain.setCharAt(i, '_');
            }
        }
        return free.give(cut(plain.toString(), LONGEST), number -> {
            String ending = " (" + number + ")";
            return cut(plain.toString(), LONGEST - ending.length()) + ending;
        });
    }

    private static String cut(String text, int length) {
        int to = Math.min(text.length(), length);
        return text.substring(0, to > 0 && Character.isHighSurrogate(text.charAt(to - 1)) ? to - 1 : to);
    }
}
