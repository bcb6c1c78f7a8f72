package org.orderlyferry.databases.driver;

import java.nio.charset.StandardCharsets;
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

/** Reads a default as a driver tells of it: a constant, what ISO/IEC 9075-2 has for the time of asking, or the system's own SQL. */
final class DriverDefaults {

    private static final Set<String> NOW =
            Set.of("CURRENT_DATE", "CURRENT_TIME", "CURRENT_TIMESTAMP", "LOCALTIME", "LOCALTIMESTAMP");

    private DriverDefaults() {}

    static Optional<ColumnDefault> read(String told, LogicalType type, String system) {
        String sql = told == null ? "" : bare(told.strip());
        if (sql.isEmpty() || sql.equalsIgnoreCase("NULL") || sql.equalsIgnoreCase("GENERATED_BY_DEFAULT")) {
            return Optional.empty();
        }
        if (NOW.contains(sql.toUpperCase(Locale.ROOT))) {
            return Optional.of(new ColumnDefault.Expression(sql.toUpperCase(Locale.ROOT), SqlText.ISO));
        }
        return constant(SqlToken.of(sql))
                .flatMap(text -> proper(text, type))
                .or(() -> Optional.of(new ColumnDefault.Expression(sql, system)));
    }

    /** Without the parentheses that some systems put around it, and {@code DEFAULT} in front. */
    private static String bare(String sql) {
        String text = sql.replaceFirst("(?i)^DEFAULT\\s+", "");
        while (text.startsWith("(") && text.endsWith(")") && isOnePair(text)) {
            text = text.substring(1, text.length() - 1).strip();
        }
        return text;
    }

    private static boolean isOnePair(String text) {
        List<SqlToken> tokens = SqlToken.of(text);
        int depth = 0;
        for (int i = 0; i < tokens.size(); i++) {
            depth += tokens.get(i).isSymbol("(") ? 1 : tokens.get(i).isSymbol(")") ? -1 : 0;
            if (depth == 0) {
                return i == tokens.size() - 1;
            }
        }
        return false;
    }

    private static Optional<String> constant(List<SqlToken> tokens) {
        if (tokens.isEmpty()) {
            return Optional.empty();
        }
        SqlToken last = tokens.get(tokens.size() - 1);
        boolean alone = tokens.size() == 1;
        boolean signed = tokens.size() == 2 && tokens.get(0).isSymbol("-");
        boolean typed = tokens.size() == 2
                && (tokens.get(0).is("DATE")
                        || tokens.get(0).is("TIME")
                        || tokens.get(0).is("TIMESTAMP")
                        || tokens.get(0).is("N"));
        return switch (last.kind()) {
            case NUMBER ->
                alone ? Optional.of(last.text()) : signed ? Optional.of("-" + last.text()) : Optional.empty();
            case STRING -> alone || typed ? Optional.of(last.text()) : Optional.empty();
            case WORD ->
                alone && (last.is("TRUE") || last.is("FALSE"))
                        ? Optional.of(last.text().toLowerCase(Locale.ROOT))
                        : Optional.empty();
            default -> Optional.empty();
        };
    }

    private static Optional<ColumnDefault> proper(String text, LogicalType type) {
        if (type.name().isBinary()) {
            return Optional.empty();
        }
        ValueText form = ValueText.of(type);
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        try {
            return Optional.of(
                    new ColumnDefault.Literal(form.isProper(bytes, 0, bytes.length) ? text : form.toProper(text)));
        } catch (InvalidValueException e) {
            return Optional.empty();
        }
    }
}
