package org.orderlyferry.databases.h2;

import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.LogicalType;

/** A column's part of CREATE TABLE, and its default both ways. */
final class H2ColumnSql {

    private H2ColumnSql() {}

    static String of(H2Dialect dialect, ColumnDefinition column) {
        StringBuilder text =
                new StringBuilder(dialect.quote(column.name())).append(' ').append(column.sourceType());
        column.generation().ifPresent(rule -> text.append(" GENERATED ALWAYS AS (")
                .append(rule.expression().sql())
                .append(')'));
        column.identity().ifPresent(identity -> text.append(new DefinitionSql(dialect).identity(identity)));
        column.defaultValue().ifPresent(value -> text.append(" DEFAULT ").append(defaultSql(value, column.type())));
        if (!column.nullable()) {
            text.append(" NOT NULL");
        }
        return text.toString();
    }

    /** An enumeration as CREATE TABLE takes it. */
    static String type(Enumeration enumeration) {
        return "ENUM("
                + enumeration.values().stream().map(DefinitionSql::string).collect(Collectors.joining(", ")) + ")";
    }

    private static String defaultSql(ColumnDefault value, LogicalType type) {
        if (value instanceof ColumnDefault.Expression expression) {
            return DefinitionSql.defaultValue(expression);
        }
        return literal(((ColumnDefault.Literal) value).text(), type);
    }

    private static String literal(String text, LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN -> text.toUpperCase(java.util.Locale.ROOT);
            case SMALLINT, INTEGER, BIGINT, DECIMAL -> text;
            case REAL, DOUBLE ->
                switch (text) {
                    case "NaN" -> "'NaN'";
                    case "INF" -> "'Infinity'";
                    case "-INF" -> "'-Infinity'";
                    default -> text;
                };
            case BINARY, VARBINARY, BLOB ->
                "X'"
                        + java.util.HexFormat.of()
                                .formatHex(java.util.Base64.getDecoder().decode(text)) + "'";
            case DATE -> "DATE " + DefinitionSql.string(text);
            case TIME -> "TIME " + DefinitionSql.string(text);
            case TIMESTAMP -> "TIMESTAMP " + DefinitionSql.string(text.replace('T', ' '));
            case TIMESTAMP_WITH_TIME_ZONE ->
                "TIMESTAMP WITH TIME ZONE "
                        + DefinitionSql.string(text.replace('T', ' ').replace("Z", "+00"));
            case UUID -> "UUID " + DefinitionSql.string(text);
            case JSON, ARRAY -> "JSON " + DefinitionSql.string(text);
            default -> DefinitionSql.string(text);
        };
    }
}
