package org.orderlyferry.databases.h2;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/** Scripts for H2. */
final class H2Scripting implements Scripting {

    private final H2Dialect dialect;

    H2Scripting(H2Dialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public List<String> opening() {
        return List.of("SET TIME ZONE 'UTC'", "SET REFERENTIAL_INTEGRITY FALSE");
    }

    @Override
    public List<String> closing() {
        return List.of("SET REFERENTIAL_INTEGRITY TRUE");
    }

    @Override
    public String literal(ColumnDefinition column, String value) {
        return switch (column.type().name()) {
            case BOOLEAN, SMALLINT, INTEGER, BIGINT, DECIMAL -> value;
            case REAL, DOUBLE -> DefinitionSql.string(value.replace("INF", "Infinity"));
            case DATE -> "DATE '" + value + "'";
            case TIME -> "TIME '" + value + "'";
            case TIMESTAMP -> "TIMESTAMP '" + value + "'";
            case TIMESTAMP_WITH_TIME_ZONE -> "TIMESTAMP WITH TIME ZONE '" + value + "'";
            case UUID -> "UUID '" + value + "'";
            case JSON, ARRAY -> "JSON " + DefinitionSql.string(value);
            default -> DefinitionSql.string(value);
        };
    }

    @Override
    public List<String> references(TableDefinition table) {
        return new DefinitionSql(dialect).references(table);
    }

    @Override
    public List<String> counter(TableDefinition table, ColumnDefinition column, long next) {
        return List.of("ALTER TABLE " + dialect.quote(table.name()) + " ALTER COLUMN " + dialect.quote(column.name())
                + " RESTART WITH " + next);
    }

    @Override
    public List<String> marks() {
        return List.of("for H2", "-- H2 ");
    }

    @Override
    public LogicalType type(String written) {
        return H2Types.logical(written.toUpperCase(Locale.ROOT).replaceAll("\\s+", " "));
    }

    @Override
    public Optional<ColumnDefault> defaultValue(String sql, LogicalType type) {
        return H2Defaults.read(sql, type);
    }
}
