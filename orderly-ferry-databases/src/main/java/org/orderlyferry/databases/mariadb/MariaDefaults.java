package org.orderlyferry.databases.mariadb;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.ValueText;

/** Reads a default as MariaDB's catalogue writes it: {@code 'QM'}, {@code -1}, {@code current_timestamp(6)}. */
final class MariaDefaults {

    private static final Map<String, String> FUNCTIONS =
            Map.of("current_timestamp", "CURRENT_TIMESTAMP", "curdate", "CURRENT_DATE", "curtime", "CURRENT_TIME");

    private MariaDefaults() {}

    static Optional<ColumnDefault> read(String sql, LogicalType type) {
        if (sql == null || sql.equalsIgnoreCase("NULL")) {
            return Optional.empty();
        }
        String function = FUNCTIONS.get(sql.toLowerCase(Locale.ROOT).replaceFirst("\\(.*", ""));
        if (function != null) {
            return Optional.of(new ColumnDefault.Expression(function, SqlText.ISO));
        }
        String text = literal(SqlToken.of(sql));
        return (text == null ? Optional.<ColumnDefault>empty() : proper(text, type))
                .or(() -> Optional.of(new ColumnDefault.Expression(sql, MariaDialect.SYSTEM)));
    }

    private static String literal(List<SqlToken> tokens) {
        SqlToken last = tokens.get(tokens.size() - 1);
        boolean alone = tokens.size() == 1;
        return switch (last.kind()) {
            case NUMBER ->
                alone ? last.text() : tokens.size() == 2 && tokens.get(0).isSymbol("-") ? "-" + last.text() : null;
            case STRING ->
                alone
                        ? last.text()
                        : tokens.size() == 2 && tokens.get(0).is("X")
                                ? Base64.getEncoder()
                                        .encodeToString(HexFormat.of().parseHex(last.text()))
                                : null;
            default -> null;
        };
    }

    private static Optional<ColumnDefault> proper(String text, LogicalType type) {
        if (type.name().isBinary()) {
            return Optional.of(new ColumnDefault.Literal(text));
        }
        String iso = text;
        if (type.name().isTimed()) {
            iso = text.replace(' ', 'T').replaceFirst("(\\.\\d*?)0+$", "$1").replaceFirst("\\.$", "");
        }
        ValueText valueText = ValueText.of(type);
        byte[] bytes = iso.getBytes(StandardCharsets.UTF_8);
        try {
            return Optional.of(new ColumnDefault.Literal(
                    valueText.isProper(bytes, 0, bytes.length) ? iso : valueText.toProper(iso)));
        } catch (InvalidValueException e) {
            return Optional.empty();
        }
    }
}
