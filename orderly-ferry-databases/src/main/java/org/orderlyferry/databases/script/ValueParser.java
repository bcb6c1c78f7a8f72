package org.orderlyferry.databases.script;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.databases.sql.BackslashEscape;
import org.orderlyferry.databases.sql.DollarQuotes;

/**
 * Reads the values of an INSERT statement, and what systems' own tools write for those that have no literal: strings with
 * escapes, hexadecimal digits, and a few functions.
 */
final class ValueParser {

    private static final Set<String> TYPED = Set.of("DATE", "TIME", "TIMESTAMP", "UUID", "JSON", "N", "INTERVAL");

    private final String sql;
    private final @Nullable BackslashEscape escape;
    private int at;

    /**
     * A parser.
     *
     * @param tuple a list of values in its parentheses
     * @param backslashes whether a backslash in any string stands for something else
     */
    ValueParser(String tuple, boolean backslashes) {
        this.sql = tuple;
        this.escape = backslashes ? BackslashEscape.MARIADB : null;
    }

    /**
     * The values.
     *
     * @throws IllegalArgumentException if what stands there is no list of values
     */
    List<ScriptValue> record() {
        must('(');
        List<ScriptValue> values = new ArrayList<>();
        do {
            values.add(expression());
            blanks();
        } while (is(','));
        must(')');
        return values;
    }

    private ScriptValue expression() {
        ScriptValue value = single();
        while (true) {
            blanks();
            if (sql.startsWith("||", at)) {
                at += 2;
                value = new ScriptValue(ScriptValue.Kind.TEXT, value.bytes() + single().bytes());
            } else if (value.kind() == ScriptValue.Kind.TEXT && sql.startsWith("+", at)) {
                // SQL Server's joining of texts
                at++;
                value = new ScriptValue(ScriptValue.Kind.TEXT, value.bytes() + single().bytes());
            } else if (sql.startsWith("::", at)) {
                at += 2;
                castType();
            } else {
                return value;
            }
        }
    }

    private void castType() {
        blanks();
        while (at < sql.length() && (isWord(sql.charAt(at)) || "\". []".indexOf(sql.charAt(at)) >= 0)) {
            at++;
        }
        if (at < sql.length() && sql.charAt(at) == '(') {
            at = sql.indexOf(')', at) + 1;
        }
    }

    private ScriptValue single() {
        blanks();
        if (at >= sql.length()) {
            throw wrong("ends where a value should stand");
        }
        char c = sql.charAt(at);
        if (c == '\'' || c == '"' && escape != null) {
            return new ScriptValue(ScriptValue.Kind.TEXT, string(c, escape));
        }
        if (c == '(') {
            at++;
            ScriptValue inner = expression();
            blanks();
            must(')');
            return inner;
        }
        if (c == '-' || c == '+') {
            at++;
            ScriptValue number = single();
            return new ScriptValue(number.kind(), c == '-' ? "-" + number.bytes() : number.bytes());
        }
        Optional<DollarQuotes> dollars = c == '$' && escape == null ? DollarQuotes.at(sql, at) : Optional.empty();
        if (dollars.isPresent()) {
            at = dollars.get().end();
            return new ScriptValue(ScriptValue.Kind.TEXT, dollars.get().text());
        }
        if (c == '$' && at + 1 < sql.length() && Character.isDigit(sql.charAt(at + 1))) {
            at++;
            return number();
        }
        if (c >= '0' && c <= '9' || c == '.') {
            return number();
        }
        if (isWord(c)) {
            return word();
        }
        throw wrong("has " + c + " where a value should stand");
    }

    private ScriptValue number() {
        int from = at;
        if (sql.startsWith("0x", at) || sql.startsWith("0X", at)) {
            at += 2;
            int digits = at;
            while (at < sql.length() && Character.digit(sql.charAt(at), 16) >= 0) {
                at++;
            }
            return binary(sql.substring(digits, at));
        }
        while (at < sql.length()
                && (isWord(sql.charAt(at))
                        || sql.charAt(at) == '.'
                        || (sql.charAt(at) == '-' || sql.charAt(at) == '+')
                                && (sql.charAt(at - 1) == 'e' || sql.charAt(at - 1) == 'E'))) {
            at++;
        }
        return new ScriptValue(ScriptValue.Kind.NUMBER, sql.substring(from, at));
    }

    private static ScriptValue binary(String hex) {
        byte[] bytes = HexFormat.of().parseHex(hex.length() % 2 == 0 ? hex : "0" + hex);
        return new ScriptValue(ScriptValue.Kind.BINARY, new String(bytes, StandardCharsets.ISO_8859_1));
    }

    private ScriptValue word() {
        int from = at;
        while (at < sql.length() && isWord(sql.charAt(at))) {
            at++;
        }
        String word = sql.substring(from, at).toUpperCase(Locale.ROOT);
        boolean stringNext = at < sql.length() && sql.charAt(at) == '\'';
        switch (word) {
            case "DEFAULT" -> {
                return ScriptValue.DEFAULT;
            }
            case "NULL" -> {
                return ScriptValue.NULL;
            }
            case "BINARY_FLOAT_NAN", "BINARY_DOUBLE_NAN" -> {
                return new ScriptValue(ScriptValue.Kind.TEXT, "NaN");
            }
            case "BINARY_FLOAT_INFINITY", "BINARY_DOUBLE_INFINITY" -> {
                return new ScriptValue(ScriptValue.Kind.TEXT, "INF");
            }
            case "TRUE", "FALSE" -> {
                return new ScriptValue(ScriptValue.Kind.TRUTH, word.toLowerCase(Locale.ROOT));
            }
            case "X" -> {
                if (stringNext) {
                    return binary(string('\'', null));
                }
            }
            case "B" -> {
                if (stringNext) {
                    return bits(string('\'', null));
                }
            }
            case "E" -> {
                if (stringNext) {
                    return new ScriptValue(ScriptValue.Kind.TEXT, string('\'', BackslashEscape.POSTGRESQL));
                }
            }
            case "N" -> {
                if (stringNext) {
                    return new ScriptValue(ScriptValue.Kind.TEXT, string('\'', escape));
                }
            }
            case "U" -> {
                if (sql.startsWith("&'", at)) {
                    at++;
                    return new ScriptValue(ScriptValue.Kind.TEXT, ValueFunction.unicode(string('\'', null)));
                }
            }
            default -> {
                // a function, or a word in front of a string
            }
        }
        blanks();
        if (at < sql.length() && sql.charAt(at) == '(') {
            return function(word);
        }
        if (word.startsWith("_") || TYPED.contains(word) || word.equals("WITH")) {
            return introduced(word);
        }
        throw wrong("has the word " + word + ", which stands for no value that is known");
    }

    /** {@code DATE '…'}, {@code TIMESTAMP WITH TIME ZONE '…'}, {@code _binary '…'}. */
    private ScriptValue introduced(String word) {
        while (at < sql.length() && sql.charAt(at) != '\'' && (isWord(sql.charAt(at)) || sql.charAt(at) == ' ')) {
            at++;
        }
        ScriptValue value = single();
        return word.equals("_BINARY") ? new ScriptValue(ScriptValue.Kind.BINARY, value.bytes()) : value;
    }

    private static ScriptValue bits(String digits) {
        if (digits.length() == 1) {
            return new ScriptValue(ScriptValue.Kind.NUMBER, digits);
        }
        int bytes = (digits.length() + 7) / 8;
        String padded = "0".repeat(bytes * 8 - digits.length()) + digits;
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < bytes; i++) {
            text.append((char) Integer.parseInt(padded.substring(i * 8, i * 8 + 8), 2));
        }
        return new ScriptValue(ScriptValue.Kind.BINARY, text.toString());
    }

    private ScriptValue function(String name) {
        must('(');
        List<ScriptValue> arguments = new ArrayList<>();
        String type = "";
        blanks();
        if (name.equals("CONVERT")) {
            // SQL Server's has the type in front
            type = type();
            must(',');
        }
        if (!is(')')) {
            do {
                arguments.add(expression());
                blanks();
                if (name.equals("CAST") && sql.regionMatches(true, at, "AS ", 0, 3)) {
                    at += 3;
                    type = type();
                }
            } while (is(','));
            must(')');
        }
        return new ValueFunction(name, type, arguments)
                .value()
                .orElseThrow(() -> wrong("has the function " + name + ", which isn't known"));
    }

    /** A type with its parameters, up to what stands behind it. */
    private String type() {
        int from = at;
        int depth = 0;
        while (at < sql.length()) {
            char c = sql.charAt(at);
            if (depth == 0 && (c == ')' || c == ',')) {
                break;
            }
            depth += c == '(' ? 1 : c == ')' ? -1 : 0;
            at++;
        }
        return sql.substring(from, at);
    }

    private String string(char quote, @Nullable BackslashEscape escapes) {
        StringBuilder text = new StringBuilder();
        at++;
        while (at < sql.length()) {
            char c = sql.charAt(at++);
            if (c == quote) {
                if (at < sql.length() && sql.charAt(at) == quote) {
                    text.append(quote);
                    at++;
                } else {
                    return text.toString();
                }
            } else if (c == '\\' && escapes != null && at < sql.length()) {
                at = escapes.take(sql, at, true, text);
            } else {
                text.append(c);
            }
        }
        throw wrong("ends inside of a string");
    }

    private static boolean isWord(char c) {
        return Character.isLetterOrDigit(c) || c == '_';
    }

    private void blanks() {
        while (at < sql.length() && Character.isWhitespace(sql.charAt(at))) {
            at++;
        }
    }

    private boolean is(char wanted) {
        if (at < sql.length() && sql.charAt(at) == wanted) {
            at++;
            return true;
        }
        return false;
    }

    private void must(char wanted) {
        if (!is(wanted)) {
            throw wrong("lacks " + wanted + (at < sql.length() ? " before " + sql.charAt(at) : " at its end"));
        }
    }

    private static IllegalArgumentException wrong(String what) {
        return new IllegalArgumentException("has a list of values that " + what);
    }
}
