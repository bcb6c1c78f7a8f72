package org.orderlyferry.crossing;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/** How texts stand in a YAML file, so that every reader takes them for the texts that they are. */
final class Yaml {

    private static final Pattern PLAIN = Pattern.compile("[A-Za-z_][A-Za-z0-9_./()+*=-]*(?: [A-Za-z0-9_./()+*=-]+)*+");
    private static final Set<String> OTHERWISE = Set.of("true", "false", "yes", "no", "on", "off", "null", "y", "n");

    private Yaml() {}

    /** A text as a value or a key. */
    static String text(String value) {
        if (PLAIN.matcher(value).matches() && !OTHERWISE.contains(value.toLowerCase(Locale.ROOT))) {
            return value;
        }
        StringBuilder quoted = new StringBuilder("\"");
        value.codePoints().forEach(c -> {
            switch (c) {
                case '"' -> quoted.append("\\\"");
                case '\\' -> quoted.append("\\\\");
                case '\n' -> quoted.append("\\n");
                case '\r' -> quoted.append("\\r");
                case '\t' -> quoted.append("\\t");
                default -> {
                    int type = Character.getType(c);
                    if (c < 0x20
                            || c == 0x7F
                            || type == Character.CONTROL
                            || type == Character.FORMAT
                            || type == Character.LINE_SEPARATOR
                            || type == Character.PARAGRAPH_SEPARATOR
                            || c == 0xFEFF) {
                        quoted.append(String.format(Locale.ROOT, c > 0xFFFF ? "\\U%08X" : "\\u%04X", c));
                    } else {
                        quoted.appendCodePoint(c);
                    }
                }
            }
        });
        return quoted.append('"').toString();
    }

    /** A text as a comment: one line, with nothing in it that would end it. */
    static String comment(String text) {
        StringBuilder plain = new StringBuilder();
        text.codePoints().forEach(c -> {
            int type = Character.getType(c);
            boolean ends = type == Character.CONTROL
                    || type == Character.LINE_SEPARATOR
                    || type == Character.PARAGRAPH_SEPARATOR
                    || type == Character.FORMAT;
            plain.appendCodePoint(ends ? ' ' : c);
        });
        return plain.toString();
    }
}
