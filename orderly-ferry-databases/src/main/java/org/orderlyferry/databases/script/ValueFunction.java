package org.orderlyferry.databases.script;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A function by which systems' own tools write values that have no literal; it is worked out here.
 *
 * @param name in upper case
 * @param type what CAST and CONVERT make of their argument; else empty
 */
record ValueFunction(String name, String type, List<ScriptValue> arguments) {

    /**
     * What it gives; nothing where it isn't known.
     *
     * @throws IllegalArgumentException if it isn't given what it takes
     */
    Optional<ScriptValue> value() {
        if (name.equals("EMPTY_CLOB") || name.equals("EMPTY_BLOB")) {
            return Optional.of(
                    new ScriptValue(name.equals("EMPTY_CLOB") ? ScriptValue.Kind.TEXT : ScriptValue.Kind.BINARY, ""));
        }
        if (arguments.isEmpty()) {
            return Optional.empty();
        }
        if (arguments.stream().anyMatch(a -> a.kind() == ScriptValue.Kind.NULL)) {
            return Optional.of(ScriptValue.NULL);
        }
        String first = arguments.get(0).bytes();
        return switch (name) {
            case "REPLACE" -> arguments.size() < 3 ? Optional.empty() : text(first.replace(bytes(1), bytes(2)));
            case "CHAR", "CHR", "NCHAR" -> text(utf8(Character.toString(Integer.parseInt(first))));
            case "UNISTR", "STRINGDECODE" -> text(unicode(first));
            case "CAST", "CONVERT" -> Optional.of(cast());
            case "TO_CLOB", "TO_NCLOB", "TO_NCHAR", "XMLTYPE" -> text(first);
            case "TO_NUMBER", "TO_BINARY_DOUBLE", "TO_BINARY_FLOAT" ->
                arguments.size() == 1 ? Optional.of(arguments.get(0)) : Optional.empty();
            case "HEXTORAW", "UNHEX" -> binary(hex(first));
            case "FROM_BASE64" -> binary(base64(first));
            case "DECODE" -> arguments.size() == 2 ? decoded(first, bytes(1)) : Optional.empty();
            case "TO_DATE", "TO_TIMESTAMP", "TO_TIMESTAMP_TZ" ->
                arguments.size() == 1 ? text(first) : text(new DatetimeModel(bytes(1)).value(first));
            default -> Optional.empty();
        };
    }

    private String bytes(int index) {
        return arguments.get(index).bytes();
    }

    /** PostgreSQL's, of which Oracle's has one argument more at least. */
    private static Optional<ScriptValue> decoded(String text, String form) {
        return switch (form.toLowerCase(Locale.ROOT)) {
            case "hex" -> binary(hex(text.replaceAll("[ \\n\\t\\r]", "")));
            case "base64" -> binary(base64(text));
            default -> Optional.empty();
        };
    }

    private static byte[] hex(String text) {
        try {
            return HexFormat.of().parseHex(text);
        } catch (IllegalArgumentException e) {
            throw new IllegalArgumentException("has bytes whose hexadecimal digits are none", e);
        }
    }

    private static byte[] base64(String text) {
        try {
            return Base64.getDecoder()
                    .decode(text.replaceAll("[ \\n\\t\\r]", "").getBytes(StandardCharsets.ISO_8859_1));
        } catch (IllegalArgumentException e) {
            throw new IllegalArgumentException("has bytes whose base64 is none", e);
        }
    }

    private static Optional<ScriptValue> binary(byte[] bytes) {
        return Optional.of(new ScriptValue(ScriptValue.Kind.BINARY, new String(bytes, StandardCharsets.ISO_8859_1)));
    }

    private static Optional<ScriptValue> text(String bytes) {
        return Optional.of(new ScriptValue(ScriptValue.Kind.TEXT, bytes));
    }

    /** Bytes that become a time are how SQL Server holds it; all else is read by the type of its column. */
    private ScriptValue cast() {
        ScriptValue argument = arguments.get(0);
        String word = type.strip().toLowerCase(Locale.ROOT).replaceFirst("[\\s(].*", "");
        if (argument.kind() != ScriptValue.Kind.BINARY) {
            return new ScriptValue(ScriptValue.Kind.TEXT, argument.bytes());
        }
        return word.contains("binary") || word.equals("image")
                ? argument
                : new ScriptValue(
                        ScriptValue.Kind.TEXT,
                        StoredMoment.text(word, argument.bytes()).orElse(argument.bytes()));
    }

    /** A text as bytes of UTF-8, one for each character. */
    private static String utf8(String text) {
        return new String(text.getBytes(StandardCharsets.UTF_8), StandardCharsets.ISO_8859_1);
    }

    /** Undoes backslash, {@code u} or nothing or {@code +}, and four or six digits. */
    static String unicode(String text) {
        StringBuilder plain = new StringBuilder();
        StringBuilder units = new StringBuilder();
        int i = 0;
        while (i < text.length()) {
            char c = text.charAt(i);
            if (c != '\\') {
                plain.append(c);
                i++;
                continue;
            }
            units.setLength(0);
            while (i < text.length() && text.charAt(i) == '\\') {
                int next = i + 1 < text.length() ? text.charAt(i + 1) : 0;
                if (next == '\\') {
                    units.append('\\');
                    i += 2;
                } else if (next == '+') {
                    units.appendCodePoint(Integer.parseInt(text.substring(i + 2, i + 8), 16));
                    i += 8;
                } else {
                    int from = next == 'u' ? i + 2 : i + 1;
                    units.append((char) Integer.parseInt(text.substring(from, from + 4), 16));
                    i = from + 4;
                }
            }
            plain.append(utf8(units.toString()));
        }
        return plain.toString();
    }
}
