package org.orderlyferry.databases.dialect;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.sql.Expression;
import org.orderlyferry.databases.sql.ExpressionParser;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.ValueText;

/** Defaults as a system can have them: constants of the column's type, the time of asking, and what is its own. */
final class CarriedDefaults {

    private final Adapting adapting;
    private final CarriedSql sql;
    private final LoadNotes notes;

    CarriedDefaults(Adapting adapting, CarriedSql sql, LoadNotes notes) {
        this.adapting = adapting;
        this.sql = sql;
        this.notes = notes;
    }

    /** A column's default; left behind by name where the system can't have it. */
    Optional<ColumnDefault> of(TableDefinition table, ColumnDefinition column) {
        if (column.defaultValue().isEmpty()) {
            return Optional.empty();
        }
        if (column.defaultValue().get() instanceof ColumnDefault.Literal literal) {
            Optional<ColumnDefault> value = value(literal.text(), column.type());
            if (value.isEmpty()) {
                notes.leftBehind(
                        "default",
                        table.name() + "." + column.name(),
                        "it is no " + column.type() + ": " + literal.text());
            }
            return value;
        }
        SqlText text = ((ColumnDefault.Expression) column.defaultValue().get()).text();
        Optional<ColumnDefault> held = text.isOf(SqlText.ISO)
                ? now(text)
                : text.isOf(sql.system())
                        ? sql.carried(table, text, Map.of()).map(t -> new ColumnDefault.Expression(t, sql.system()))
                        : Optional.empty();
        if (held.isEmpty()) {
            notes.leftBehind(
                    "default",
                    table.name() + "." + column.name(),
                    "the expression means something else here, or nothing: " + text.sql());
        }
        return held;
    }

    /** The time of asking, which is all that every system takes as a default. */
    private Optional<ColumnDefault> now(SqlText text) {
        return ExpressionParser.parse(text)
                .flatMap(read -> read instanceof Expression.Now now
                        ? adapting.expression(new SqlText(now.function(), SqlText.ISO))
                        : Optional.empty());
    }

    /** A constant as a value of the column's type; what is none would be SQL when it stands in CREATE TABLE. */
    private static Optional<ColumnDefault> value(String text, LogicalType type) {
        try {
            if (type.name().isBinary()) {
                Base64.getDecoder().decode(text);
                return Optional.of(new ColumnDefault.Literal(text));
            }
            byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
            ValueText form = ValueText.of(type);
            return Optional.of(
                    new ColumnDefault.Literal(form.isProper(bytes, 0, bytes.length) ? text : form.toProper(text)));
        } catch (IllegalArgumentException | InvalidValueException e) {
            return Optional.empty();
        }
    }
}
