package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.List;

/** A record of PostgreSQL's COPY in text format: values with tabs between them, and backslashes in front of what isn't. */
final class CopyLine {

    private static final int OCTAL = 8;
    private static final int HEX = 16;

    private final String line;
    private int at;

    private CopyLine(String line) {
        this.line = line;
    }

    /** The line's values, with a character for each byte. */
    static List<ScriptValue> fields(String line) {
        CopyLine reader = new CopyLine(line);
        List<ScriptValue> fields = new ArrayList<>();
        fields.add(reader.field());
        while (reader.at < line.length()) {
            reader.at++;
            fields.add(reader.field());
        }
        return fields;
    }

    private ScriptValue field() {
        int tab = line.indexOf('\t', at);
        int backslash = line.indexOf('\\', at);
        int end = tab < 0 ? line.length() : tab;
        if (backslash < 0 || backslash > end) {
            ScriptValue plain = new ScriptValue(ScriptValue.Kind.TEXT, line.substring(at, end));
            at = end;
            return plain;
        }
        int start = at;
        StringBuilder text = new StringBuilder();
        while (at < line.length() && line.charAt(at) != '\t') {
            char c = line.charAt(at++);
            text.append(c == '\\' && at < line.length() ? meant() : c);
        }
        return line.substring(start, at).equals("\\N")
                ? ScriptValue.NULL
                : new ScriptValue(ScriptValue.Kind.TEXT, text.toString());
    }

    /** What stands behind a backslash. */
    private char meant() {
        char c = line.charAt(at);
        if (Character.digit(c, OCTAL) >= 0) {
            return number(3, OCTAL);
        }
        at++;
        if (c == 'x' && at < line.length() && Character.digit(line.charAt(at), HEX) >= 0) {
            return number(2, HEX);
        }
        return switch (c) {
            case 'b' -> '\b';
            case 'f' -> '\f';
            case 'n' -> '\n';
            case 'r' -> '\r';
            case 't' -> '\t';
            case 'v' -> '\u000B';
            default -> c;
        };
    }

    /** A byte by its digits. */
    private char number(int most, int radix) {
        int value = 0;
        for (int i = 0; i < most && at < line.length() && Character.digit(line.charAt(at), radix) >= 0; i++) {
            value = value * radix + Character.digit(line.charAt(at++), radix);
        }
        return (char) (value & 0xFF);
    }
}
