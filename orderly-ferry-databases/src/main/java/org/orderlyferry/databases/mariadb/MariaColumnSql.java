package org.orderlyferry.databases.mariadb;

import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;

/** A column's part of CREATE TABLE. */
final class MariaColumnSql {

    private MariaColumnSql() {}

    static String of(MariaDialect dialect, ColumnDefinition column) {
        StringBuilder text =
                new StringBuilder(dialect.quote(column.name())).append(' ').append(column.sourceType());
        if (!column.collation().isEmpty()) {
            text.append(" COLLATE ").append(column.collation());
        }
        column.generation().ifPresent(rule -> text.append(" GENERATED ALWAYS AS (")
                .append(rule.expression().sql())
                .append(rule.stored() ? ") STORED" : ") VIRTUAL"));
        if (column.generation().isEmpty()) {
            text.append(column.nullable() ? " NULL" : " NOT NULL");
        }
        if (column.identity().isPresent()) {
            text.append(" AUTO_INCREMENT");
        }
        column.defaultValue().ifPresent(value -> text.append(" DEFAULT ").append(defaultSql(value, column.type())));
        if (!column.comment().isEmpty()) {
            text.append(" COMMENT ").append(DefinitionSql.string(column.comment()));
        }
        return text.toString();
    }

    private static String defaultSql(ColumnDefault value, LogicalType type) {
        if (value instanceof ColumnDefault.Expression expression) {
            boolean now = expression.sql().equals("CURRENT_TIMESTAMP")
                    || expression.sql().equals("LOCALTIMESTAMP");
            return now ? "CURRENT_TIMESTAMP" + MariaTypes.fraction(type) : "(" + expression.sql() + ")";
        }
        String text = ((ColumnDefault.Literal) value).text();
        return switch (type.name()) {
            case BOOLEAN -> text.equals("true") ? "1" : "0";
            case SMALLINT, INTEGER, BIGINT, DECIMAL, REAL, DOUBLE -> text;
            case BINARY, VARBINARY, BLOB ->
                "X'"
                        + java.util.HexFormat.of()
                                .formatHex(java.util.Base64.getDecoder().decode(text)) + "'";
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                DefinitionSql.string(text.replace('T', ' ').replace("Z", ""));
            default -> DefinitionSql.string(text);
        };
    }
}
