package org.orderlyferry.databases.mariadb;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
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

    private static final Pattern BITS = Pattern.compile("[01]{1,64}");
    private static final Pattern HEX = Pattern.compile("(?:[0-9A-Fa-f]{2})*+");

    private MariaDefaults() {}

    static Optional<ColumnDefault> read(String sql, LogicalType type) {
        if (sql == null || sql.equalsIgnoreCase("NULL")) {
            return Optional.empty();
        }
        String function = FUNCTIONS.get(sql.toLowerCase(Locale.ROOT).replaceFirst("\\(.*", ""));
        if (function != null) {
            return Optional.of(new ColumnDefault.Expression(function, SqlText.ISO));
        }
        List<SqlToken> tokens = SqlToken.of(sql);
        Optional<ColumnDefault> literal = type.name().isBinary()
                ? bytes(tokens)
                : Optional.ofNullable(text(tokens)).flatMap(t -> proper(t, type));
        return literal.or(() -> Optional.of(new ColumnDefault.Expression(sql, MariaDialect.SYSTEM)));
    }

    private static String text(List<SqlToken> tokens) {
        SqlToken last = tokens.get(tokens.size() - 1);
        boolean alone = tokens.size() == 1;
        return switch (last.kind()) {
            case NUMBER ->
                alone ? last.text() : tokens.size() == 2 && tokens.get(0).isSymbol("-") ? "-" + last.text() : null;
            case STRING -> alone ? last.text() : isBits(tokens) ? new BigInteger(last.text(), 2).toString() : null;
            // as scripts have it: the catalogue says 1 and 0
            case WORD -> alone && last.is("TRUE") ? "1" : alone && last.is("FALSE") ? "0" : null;
            default -> null;
        };
    }

    /** {@code b'0101'}. */
    private static boolean isBits(List<SqlToken> tokens) {
        return tokens.size() == 2
                && tokens.get(0).is("B")
                && tokens.get(1).kind() == SqlToken.Kind.STRING
                && BITS.matcher(tokens.get(1).text()).matches();
    }

    /** Of characters beyond ASCII it isn't known which bytes they were, and of bits not how many zeros stand before them. */
    private static Optional<ColumnDefault> bytes(List<SqlToken> tokens) {
        String last = tokens.get(tokens.size() - 1).text();
        boolean string = tokens.get(tokens.size() - 1).kind() == SqlToken.Kind.STRING;
        if (string && tokens.size() == 1 && last.chars().allMatch(c -> c < 0x80)) {
            return literal(last.getBytes(StandardCharsets.US_ASCII));
        }
        if (string
                && tokens.size() == 2
                && tokens.get(0).is("X")
                && HEX.matcher(last).matches()) {
            return literal(HexFormat.of().parseHex(last));
        }
        return Optional.empty();
    }

    private static Optional<ColumnDefault> literal(byte[] bytes) {
        return Optional.of(new ColumnDefault.Literal(Base64.getEncoder().encodeToString(bytes)));
    }

    private static Optional<ColumnDefault> proper(String text, LogicalType type) {
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
