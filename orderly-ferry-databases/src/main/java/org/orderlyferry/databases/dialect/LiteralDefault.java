package org.orderlyferry.databases.dialect;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.ValueText;

/** A default that is a constant: a number, a text, bytes in hexadecimal digits, a date with its type in front. */
@API(status = API.Status.INTERNAL)
public final class LiteralDefault {

    private LiteralDefault() {}

    /** What is written as the value of a column's type; nothing where it is no constant, or none of that type. */
    public static Optional<ColumnDefault> read(String sql, LogicalType type) {
        List<SqlToken> tokens = SqlToken.of(sql);
        if (tokens.isEmpty() || tokens.size() > 2) {
            return Optional.empty();
        }
        SqlToken first = tokens.get(0);
        SqlToken last = tokens.get(tokens.size() - 1);
        boolean alone = tokens.size() == 1;
        return switch (last.kind()) {
            case NUMBER -> number(first, last, alone, type);
            case STRING ->
                alone || first.is("DATE") || first.is("TIMESTAMP") || first.is("TIME")
                        ? proper(last.text(), type)
                        : Optional.empty();
            default -> Optional.empty();
        };
    }

    private static Optional<ColumnDefault> number(SqlToken first, SqlToken last, boolean alone, LogicalType type) {
        String digits = last.text();
        if (alone && type.name().isBinary() && digits.matches("0[xX](?:\\p{XDigit}{2})*+")) {
            byte[] bytes = HexFormat.of().parseHex(digits.substring(2));
            return Optional.of(new ColumnDefault.Literal(Base64.getEncoder().encodeToString(bytes)));
        }
        if (!alone && !first.isSymbol("-")) {
            return Optional.empty();
        }
        if (alone && type.name() == TypeName.BOOLEAN && digits.matches("[01]")) {
            return Optional.of(new ColumnDefault.Literal(digits.equals("1") ? "true" : "false"));
        }
        return proper((alone ? "" : "-") + digits, type);
    }

    private static Optional<ColumnDefault> proper(String text, LogicalType type) {
        if (type.name().isBinary()) {
            return Optional.empty();
        }
        String iso = type.name().isTimed() ? text.strip().replace(' ', 'T') : text;
        ValueText form = ValueText.of(type);
        byte[] bytes = iso.getBytes(StandardCharsets.UTF_8);
        try {
            return Optional.of(
                    new ColumnDefault.Literal(form.isProper(bytes, 0, bytes.length) ? iso : form.toProper(iso)));
        } catch (InvalidValueException e) {
            return Optional.empty();
        }
    }
}
