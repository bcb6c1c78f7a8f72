package org.orderlyferry.databases.sqlite;

import java.nio.charset.StandardCharsets;
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

/** Reads a default as it stands in SQLite's CREATE TABLE. */
final class SqliteDefaults {

    private static final Set<String> ISO_FUNCTIONS = Set.of("CURRENT_DATE", "CURRENT_TIME", "CURRENT_TIMESTAMP");

    private SqliteDefaults() {}

    static Optional<ColumnDefault> read(String sql, LogicalType type) {
        if (sql == null || sql.equalsIgnoreCase("NULL")) {
            return Optional.empty();
        }
        String upper = sql.toUpperCase(Locale.ROOT);
        if (ISO_FUNCTIONS.contains(upper)) {
            return Optional.of(new ColumnDefault.Expression(upper, SqlText.ISO));
        }
        String text = literal(SqlToken.of(sql));
        if (text != null) {
            if (type.name().isBinary()) {
                return Optional.of(new ColumnDefault.Literal(text));
            }
            String iso = type.name().isTimed() ? text.replace(' ', 'T') : text;
            ValueText valueText = ValueText.of(type);
            byte[] bytes = iso.getBytes(StandardCharsets.UTF_8);
            try {
                return Optional.of(new ColumnDefault.Literal(
                        valueText.isProper(bytes, 0, bytes.length) ? iso : valueText.toProper(iso)));
            } catch (InvalidValueException e) {
                // SQLite takes any default for any column; what isn't a value stays an expression
                return Optional.of(new ColumnDefault.Expression(sql, SqliteDialect.SYSTEM));
            }
        }
        return Optional.of(new ColumnDefault.Expression(sql, SqliteDialect.SYSTEM));
    }

    private static String literal(List<SqlToken> tokens) {
        SqlToken last = tokens.get(tokens.size() - 1);
        boolean alone = tokens.size() == 1;
        boolean signed = tokens.size() == 2
                && (tokens.get(0).isSymbol("-") || tokens.get(0).isSymbol("+"));
        return switch (last.kind()) {
            case NUMBER -> {
                String number = last.text().equalsIgnoreCase("9e999") ? "INF" : last.text();
                yield alone ? number : signed ? tokens.get(0).text().replace("+", "") + number : null;
            }
            case STRING ->
                alone
                        ? last.text()
                        : tokens.size() == 2 && tokens.get(0).is("X")
                                ? Base64.getEncoder()
                                        .encodeToString(HexFormat.of().parseHex(last.text()))
                                : null;
            case WORD -> alone && (last.is("TRUE") || last.is("FALSE")) ? last.text() : null;
            // SQLite reads a name in quotes as a text where no column has it
            case NAME -> alone ? last.text() : null;
            default -> null;
        };
    }
}
