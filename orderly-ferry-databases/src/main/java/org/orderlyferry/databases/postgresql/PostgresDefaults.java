package org.orderlyferry.databases.postgresql;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.HexFormat;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.ValueText;

/** Reads a default as PostgreSQL's catalogue writes it: {@code 'QM'::bpchar}, {@code '-1'::integer}, {@code now()}. */
final class PostgresDefaults {

    private static final Set<String> ISO_FUNCTIONS =
            Set.of("CURRENT_DATE", "CURRENT_TIME", "CURRENT_TIMESTAMP", "LOCALTIME", "LOCALTIMESTAMP");
    private static final Pattern STRING = Pattern.compile("'((?:[^']++|'')*+)'::[a-z\" ]+(?:\\([0-9,]+\\))?[a-z ]*");
    private static final Pattern PLAIN = Pattern.compile("(?i)\\(?(-?[0-9.]+|true|false)\\)?(?:::[a-z ]+)?");

    /** With the type that the server writes behind it, in small letters. */
    private static final Pattern NOTHING =
            Pattern.compile("(?i:NULL)(?:::(?:\"[^\"]*+\"|[a-z0-9_. ])++(?:\\([0-9,]++\\))?[a-z ]*+(?:\\[\\])*+)?");

    private PostgresDefaults() {}

    static Optional<ColumnDefault> read(String sql, LogicalType type) {
        if (sql == null || NOTHING.matcher(sql).matches()) {
            return Optional.empty();
        }
        String upper = sql.toUpperCase(Locale.ROOT);
        if (ISO_FUNCTIONS.contains(upper) || upper.equals("NOW()")) {
            String function = upper.equals("NOW()") ? "CURRENT_TIMESTAMP" : upper;
            return Optional.of(new ColumnDefault.Expression(function, SqlText.ISO));
        }
        String text = null;
        Matcher string = STRING.matcher(sql);
        Matcher plain = PLAIN.matcher(sql);
        if (string.matches()) {
            text = string.group(1).replace("''", "'");
        } else if (plain.matches()) {
            text = plain.group(1);
        }
        Optional<ColumnDefault> literal = text == null ? Optional.empty() : literal(text, type);
        return literal.or(() -> Optional.of(new ColumnDefault.Expression(sql, PostgresDialect.SYSTEM)));
    }

    private static Optional<ColumnDefault> literal(String text, LogicalType type) {
        if (type.name() == TypeName.BOOLEAN) {
            return truth(text);
        }
        if (type.name().isBinary()) {
            if (text.isEmpty()) {
                return Optional.of(new ColumnDefault.Literal(""));
            }
            return text.startsWith("\\x")
                    ? Optional.of(new ColumnDefault.Literal(
                            Base64.getEncoder().encodeToString(HexFormat.of().parseHex(text.substring(2)))))
                    : Optional.empty();
        }
        String iso = type.name().isTimed() ? text.replace(' ', 'T').replaceFirst("\\+00$", "Z") : text;
        ValueText valueText = ValueText.of(type);
        byte[] bytes = iso.getBytes(StandardCharsets.UTF_8);
        try {
            return Optional.of(new ColumnDefault.Literal(
                    valueText.isProper(bytes, 0, bytes.length) ? iso : valueText.toProper(iso)));
        } catch (InvalidValueException e) {
            return Optional.empty();
        }
    }

    /** The words for it that the server takes in quotes; 1 and 0 are none without. */
    private static Optional<ColumnDefault> truth(String text) {
        return switch (text.toLowerCase(Locale.ROOT)) {
            case "true", "t", "yes", "y", "on", "1" -> Optional.of(new ColumnDefault.Literal("true"));
            case "false", "f", "no", "n", "off", "0" -> Optional.of(new ColumnDefault.Literal("false"));
            default -> Optional.empty();
        };
    }
}
