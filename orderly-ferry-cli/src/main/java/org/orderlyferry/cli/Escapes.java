package org.orderlyferry.cli;

import java.util.Locale;
import org.apiguardian.api.API;

/**
 * What a terminal is shown. Names, values, paths and messages come from anywhere, and none of their characters may tell
 * a terminal what to do: control characters, and marks that turn the writing direction, are shown as escapes.
 */
@API(status = API.Status.INTERNAL)
public final class Escapes {

    private Escapes() {}

    /** A text without anything that a terminal obeys; line ends stay. */
    public static String shown(String text) {
        StringBuilder shown = null;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean obeyed = c != '\n' && Character.isISOControl(c) || isDirection(c);
            if (obeyed && shown == null) {
                shown = new StringBuilder(text.length() + 16).append(text, 0, i);
            }
            if (shown != null) {
                shown.append(obeyed ? escape(c) : String.valueOf(c));
            }
        }
        return shown == null ? text : shown.toString();
    }

    /** A character as people know it from programs and from JSON. */
    public static String escape(int c) {
        return switch (c) {
            case '\n' -> "\\n";
            case '\r' -> "\\r";
            case '\t' -> "\\t";
            default -> String.format(Locale.ROOT, "\\u%04x", c);
        };
    }

    /** Marks that turn a terminal's writing direction or its lines; shown as they are, they would disorder the rest. */
    public static boolean isDirection(int c) {
        return c >= 0x202A && c <= 0x202E || c >= 0x2066 && c <= 0x2069 || c == 0x2028 || c == 0x2029;
    }
}
