package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.List;

/** A record of PostgreSQL's COPY in text format: values with tabs or the like between them, and backslashes in front of what isn't. */
final class CopyLine {

    private static final int OCTAL = 8;
    private static final int HEX = 16;

    private final String line;
    private final CopyText form;
    private int at;

    private CopyLine(String line, CopyText form) {
        this.line = line;
        this.form = form;
    }

    /** The line's values, with a character for each byte. */
    static List<ScriptValue> fields(String line, CopyText form) {
        CopyLine reader = new CopyLine(line, form);
        List<ScriptValue> fields = new ArrayList<>();
        fields.add(reader.field());
        while (reader.at < line.length()) {
            reader.at++;
            fields.add(reader.field());
        }
        return fields;
    }

    private ScriptValue field() {
        int tab = line.indexOf(form.delimiter(), at);
        int backslash = line.indexOf('\\', at);
        int end = tab < 0 ? line.length() : tab;
        if (backslash < 0 || backslash > end) {
            String plain = line.substring(at, end);
            at = end;
            return value(plain, plain);
        }
        int start = at;
        StringBuilder text = new StringBuilder();
        while (at < line.length() && line.charAt(at) != form.delimiter()) {
            char c = line.charAt(at++);
            text.append(c == '\\' && at < line.length() ? meant() : c);
        }
        return value(line.substring(start, at), text.toString());
    }

    private ScriptValue value(String written, String meant) {
        return written.equals(form.nullText()) ? ScriptValue.NULL : new ScriptValue(ScriptValue.Kind.TEXT, meant);
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
