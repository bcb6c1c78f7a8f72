package org.orderlyferry.databases.sqlite;

import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/** A column's part of CREATE TABLE. */
final class SqliteColumnSql {

    private SqliteColumnSql() {}

    /** Whether the table's key is a counter, which SQLite writes at the column itself. */
    static boolean hasCounter(TableDefinition table) {
        return table.columns().stream().anyMatch(c -> c.identity().isPresent());
    }

    static String of(SqliteDialect dialect, TableDefinition table, ColumnDefinition column) {
        if (column.identity().isPresent()) {
            String name = table.primaryKey().map(k -> k.name()).orElse("");
            return dialect.quote(column.name()) + " INTEGER NOT NULL"
                    + (name.isEmpty() ? "" : " CONSTRAINT " + dialect.quote(name)) + " PRIMARY KEY AUTOINCREMENT";
        }
        StringBuilder text =
                new StringBuilder(dialect.quote(column.name())).append(' ').append(column.sourceType());
        if (!column.collation().isEmpty()) {
            text.append(" COLLATE ").append(column.collation());
        }
        column.generation().ifPresent(rule -> text.append(" GENERATED ALWAYS AS (")
                .append(rule.expression().sql())
                .append(rule.stored() ? ") STORED" : ") VIRTUAL"));
        if (!column.nullable()) {
            text.append(" NOT NULL");
        }
        column.defaultValue().ifPresent(value -> text.append(" DEFAULT ").append(defaultSql(value, column.type())));
        return text.toString();
    }

    private static String defaultSql(ColumnDefault value, LogicalType type) {
        if (value instanceof ColumnDefault.Expression expression) {
            return expression.system().equals(SqliteDialect.SYSTEM) ? "(" + expression.sql() + ")" : expression.sql();
        }
        String text = ((ColumnDefault.Literal) value).text();
        return switch (type.name()) {
            case BOOLEAN -> text.equals("true") ? "1" : "0";
            case SMALLINT, INTEGER, BIGINT -> text;
            case REAL, DOUBLE ->
                switch (text) {
                    case "INF" -> "9e999";
                    case "-INF" -> "-9e999";
                    default -> text;
                };
            case BINARY, VARBINARY, BLOB ->
                "X'"
                        + java.util.HexFormat.of()
                                .formatHex(java.util.Base64.getDecoder().decode(text)) + "'";
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> DefinitionSql.string(text.replace('T', ' '));
            default -> DefinitionSql.string(text);
        };
    }
}
