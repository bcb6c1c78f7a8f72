package org.orderlyferry.databases.postgresql;

import java.util.Base64;
import java.util.HexFormat;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;

/** A column's part of CREATE TABLE. */
final class PostgresColumnSql {

    private PostgresColumnSql() {}

    static String of(PostgresDialect dialect, ColumnDefinition column) {
        StringBuilder text =
                new StringBuilder(dialect.quote(column.name())).append(' ').append(column.sourceType());
        if (!column.collation().isEmpty()) {
            text.append(" COLLATE ").append(column.collation());
        }
        column.generation().ifPresent(rule -> text.append(" GENERATED ALWAYS AS (")
                .append(rule.expression().sql())
                .append(") STORED"));
        column.identity().ifPresent(identity -> text.append(new DefinitionSql(dialect).identity(identity)));
        column.defaultValue().ifPresent(value -> text.append(" DEFAULT ").append(defaultSql(value, column.type())));
        if (!column.nullable()) {
            text.append(" NOT NULL");
        }
        return text.toString();
    }

    private static String defaultSql(ColumnDefault value, LogicalType type) {
        if (value instanceof ColumnDefault.Expression expression) {
            return DefinitionSql.defaultValue(expression);
        }
        String text = ((ColumnDefault.Literal) value).text();
        return switch (type.name()) {
            case BOOLEAN, SMALLINT, INTEGER, BIGINT, DECIMAL -> text;
            case REAL, DOUBLE -> DefinitionSql.string(text.replace("INF", "Infinity"));
            case BINARY, VARBINARY, BLOB ->
                "'\\x" + HexFormat.of().formatHex(Base64.getDecoder().decode(text)) + "'";
            default -> DefinitionSql.string(text);
        };
    }
}
