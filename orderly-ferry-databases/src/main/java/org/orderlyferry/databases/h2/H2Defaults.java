package org.orderlyferry.databases.h2;

import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.ValueText;

/** Reads a default as H2's catalogue writes it: a literal where it is one, else an expression. */
final class H2Defaults {

    private static final Set<String> ISO_FUNCTIONS =
            Set.of("CURRENT_DATE", "CURRENT_TIME", "CURRENT_TIMESTAMP", "LOCALTIME", "LOCALTIMESTAMP");
    private static final Set<String> TYPED =
            Set.of("DATE", "TIME", "TIMESTAMP", "UUID", "JSON", "TIMESTAMP WITH TIME ZONE");

    private H2Defaults() {}

    static Optional<ColumnDefault> read(String sql, LogicalType type) {
        if (sql == null || sql.equalsIgnoreCase("NULL")) {
            return Optional.empty();
        }
        if (ISO_FUNCTIONS.contains(sql.toUpperCase(Locale.ROOT))) {
            return Optional.of(new ColumnDefault.Expression(sql.toUpperCase(Locale.ROOT), SqlText.ISO));
        }
        String text = literal(SqlToken.of(sql));
        if (text != null) {
            Optional<ColumnDefault> proper = proper(text, type);
            if (proper.isPresent()) {
                return proper;
            }
        }
        return Optional.of(new ColumnDefault.Expression(sql, H2Dialect.SYSTEM));
    }

    private static String literal(List<SqlToken> tokens) {
        int last = tokens.size() - 1;
        SqlToken value = tokens.get(last);
        StringBuilder words = new StringBuilder();
        for (SqlToken token : tokens.subList(0, last)) {
            words.append(words.length() == 0 ? "" : " ").append(token.text().toUpperCase(Locale.ROOT));
        }
        String before = words.toString();
        return switch (value.kind()) {
            case NUMBER -> before.isEmpty() ? value.text() : before.equals("-") ? "-" + value.text() : null;
            case WORD -> before.isEmpty() && (value.is("TRUE") || value.is("FALSE")) ? value.text() : null;
            case STRING ->
                switch (before) {
                    case "" -> value.text();
                    case "X" ->
                        Base64.getEncoder()
                                .encodeToString(
                                        HexFormat.of().parseHex(value.text().replace(" ", "")));
                    case "U &" -> unicode(value.text());
                    default -> TYPED.contains(before) ? value.text() : null;
                };
            default -> null;
        };
    }

    /** The text of a {@code U&'…'} literal, in which {@code \XXXX} and {@code \+XXXXXX} stand for characters. */
    private static String unicode(String text) {
        StringBuilder plain = new StringBuilder();
        int i = 0;
        while (i < text.length()) {
            char c = text.charAt(i);
            if (c != '\\') {
                plain.append(c);
                i++;
            } else if (text.startsWith("\\\\", i)) {
                plain.append('\\');
                i += 2;
            } else {
                int digits = text.startsWith("\\+", i) ? 6 : 4;
                int start = digits == 6 ? i + 2 : i + 1;
                plain.appendCodePoint(Integer.parseInt(text.substring(start, start + digits), 16));
                i = start + digits;
            }
        }
        return plain.toString();
    }

    private static Optional<ColumnDefault> proper(String text, LogicalType type) {
        if (type.name().isBinary()) {
            return Optional.of(new ColumnDefault.Literal(text));
        }
        ValueText valueText = ValueText.of(type);
        byte[] bytes = text.getBytes(java.nio.charset.StandardCharsets.UTF_8);
        try {
            return Optional.of(new ColumnDefault.Literal(
                    valueText.isProper(bytes, 0, bytes.length)
                            ? text
                            : valueText.toProper(text.replaceFirst("([+-]\\d\\d)$", "$1:00"))));
        } catch (InvalidValueException e) {
            return Optional.empty();
        }
    }
}
