package org.orderlyferry.databases.sqlserver;

import java.util.ArrayList;
import java.util.Base64;
import java.util.EnumSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.Defining;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.ReferenceFit;
import org.orderlyferry.databases.dialect.ReferenceRules;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** How tables are defined in SQL Server. */
final class SqlServerDefining implements Defining {

    /** Compares by code points, so that unique keys forbid no more than elsewhere; the usual ones pass over case. */
    private static final String COLLATION = "Latin1_General_100_BIN2";

    private final SqlServerSql system;
    private final DefinitionSql sql;

    SqlServerDefining(SqlServerSql system) {
        this.system = system;
        this.sql = new DefinitionSql(system);
    }

    @Override
    public Adapting adapting(LoadNotes notes) {
        return new SqlServerAdapting(system, notes, true);
    }

    @Override
    public ValueLimit limit(TableName table, ColumnDefinition column, LoadNotes notes) {
        String name = SqlServerSql.SYSTEM;
        LogicalType type = column.type();
        ValueLimit moment = ValueLimit.years(name + "'s dates").and(ValueLimit.fraction(SqlServerTypes.FRACTION, name));
        return switch (type.name()) {
            case REAL, DOUBLE ->
                ValueLimit.finite(name).and(ValueLimit.unsignedZero(table, column.name(), name, notes));
            case DECIMAL -> ValueLimit.digits(type.size(), Math.max(0, type.scale()), name);
            case DATE -> ValueLimit.years(name + "'s dates");
            case TIME -> ValueLimit.fraction(SqlServerTypes.FRACTION, name);
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> moment;
            case CHARACTER, VARCHAR ->
                type.isSized() && type.size() <= SqlServerTypes.LONGEST_TEXT
                        ? ValueLimit.units(type.size(), name)
                        : ValueLimit.NONE;
            default -> ValueLimit.NONE;
        };
    }

    /**
     * Error 1785 of a second way, 1761 and 1762 of columns without room, 1776 of a key that is an index of some records; there is no
     * RESTRICT.
     */
    @Override
    public ReferenceRules references() {
        Set<ReferentialAction> had = EnumSet.complementOf(EnumSet.of(ReferentialAction.RESTRICT));
        return new ReferenceRules(
                had, had, true, ReferenceRules.Paths.ONE, ReferenceRules.Referred.UNIQUE_WITHOUT_NULLS);
    }

    @Override
    public boolean canRefer(ColumnDefinition mine, ColumnDefinition its) {
        return ReferenceFit.isSame(mine, its);
    }

    @Override
    public List<String> createStatements(TableDefinition table) {
        List<String> parts = new ArrayList<>();
        table.columns().forEach(c -> parts.add(column(table, c)));
        table.primaryKey().ifPresent(key -> parts.add(sql.primaryKey(key)));
        List<String> statements = new ArrayList<>();
        statements.add("CREATE TABLE " + system.quote(table.name()) + " (\n  " + String.join(",\n  ", parts) + "\n)");
        if (!table.comment().isEmpty()) {
            statements.add(comment(table, table.comment(), ""));
        }
        table.columns().stream()
                .filter(c -> !c.comment().isEmpty())
                .forEach(c -> statements.add(comment(table, c.comment(), c.name())));
        return statements;
    }

    private String column(TableDefinition table, ColumnDefinition column) {
        StringBuilder text = new StringBuilder(system.quote(column.name())).append(' ');
        if (column.generation().isPresent()) {
            var rule = column.generation().get();
            return text.append("AS (")
                    .append(rule.expression().sql())
                    .append(rule.stored() ? ") PERSISTED" : ")")
                    .toString();
        }
        text.append(column.sourceType());
        if (column.sourceType().matches("n?(var)?char\\(.*") && isKeyed(table, column.name())) {
            text.append(" COLLATE ").append(COLLATION);
        }
        column.identity().ifPresent(i -> text.append(" IDENTITY(")
                .append(i.start())
                .append(',')
                .append(i.increment())
                .append(')'));
        column.defaultValue().ifPresent(d -> text.append(" DEFAULT ").append(value(d, column.type())));
        // whether null is allowed where nothing is said depends on a setting
        return text.append(column.nullable() ? " NULL" : " NOT NULL").toString();
    }

    private static String value(ColumnDefault value, LogicalType type) {
        if (value instanceof ColumnDefault.Expression expression) {
            return "(" + expression.sql() + ")";
        }
        String text = ((ColumnDefault.Literal) value).text();
        return type.name().isBinary()
                ? "0x" + HexFormat.of().formatHex(Base64.getDecoder().decode(text))
                : SqlServerScripting.literal(type, text);
    }

    private static boolean isKeyed(TableDefinition table, String column) {
        return table.primaryKey().filter(k -> k.columns().contains(column)).isPresent()
                || table.uniqueKeys().stream().anyMatch(k -> k.columns().contains(column))
                || table.foreignKeys().stream().anyMatch(k -> k.columns().contains(column))
                || table.indexes().stream().filter(IndexDefinition::unique).anyMatch(i -> i.parts().stream()
                        .anyMatch(p -> p.column().equals(column)));
    }

    /** A property of the name by which the system's own tools show comments. */
    private String comment(TableDefinition table, String text, String column) {
        String schema = table.name().schema();
        return (schema.isEmpty() ? "DECLARE @schema sysname = SCHEMA_NAME(); " : "")
                + "EXEC sys.sp_addextendedproperty @name = N'MS_Description', @value = "
                + SqlServerScripting.parameter(text)
                + ", @level0type = N'SCHEMA', @level0name = "
                + (schema.isEmpty() ? "@schema" : SqlServerScripting.parameter(schema))
                + ", @level1type = N'TABLE', @level1name = "
                + SqlServerScripting.parameter(table.name().name())
                + (column.isEmpty()
                        ? ""
                        : ", @level2type = N'COLUMN', @level2name = " + SqlServerScripting.parameter(column));
    }

    @Override
    public List<String> keyStatements(TableDefinition table) {
        List<String> statements = new ArrayList<>();
        for (Key key : table.uniqueKeys()) {
            Optional<String> filter = filter(table, key.columns());
            statements.add(
                    filter.isEmpty()
                            ? sql.add(table, sql.unique(key))
                            : "CREATE UNIQUE INDEX " + system.quote(name(table, key)) + " ON "
                                    + system.quote(table.name()) + " (" + sql.names(key.columns()) + ")"
                                    + filter.get());
        }
        table.checks().forEach(check -> statements.add(sql.add(table, sql.check(check))));
        table.indexes().forEach(index -> statements.add(sql.index(table.name(), filtered(table, index))));
        return statements;
    }

    private static String name(TableDefinition table, Key key) {
        return key.name().isEmpty() ? table.name().name() + "_" + String.join("_", key.columns()) : key.name();
    }

    /** To SQL Server two nulls are equal, to ISO/IEC 9075-2 no two: records that have one are left out of what is unique. */
    private Optional<String> filter(TableDefinition table, List<String> columns) {
        List<String> nullable = columns.stream()
                .flatMap(c -> table.column(c).stream())
                .filter(ColumnDefinition::nullable)
                .map(c -> system.quote(c.name()) + " IS NOT NULL")
                .toList();
        return nullable.isEmpty()
                ? Optional.empty()
                : Optional.of(nullable.stream().collect(Collectors.joining(" AND ", " WHERE ", "")));
    }

    private IndexDefinition filtered(TableDefinition table, IndexDefinition index) {
        if (!index.unique() || index.own().isPresent() || index.predicate().isPresent()) {
            return index;
        }
        Optional<String> filter = filter(
                table, index.parts().stream().map(IndexDefinition.Part::column).toList());
        return filter.isEmpty()
                ? index
                : new IndexDefinition(
                        index.name(),
                        true,
                        index.parts(),
                        filter.map(f -> new SqlText(f.substring(" WHERE ".length()), SqlServerSql.SYSTEM)),
                        Optional.empty());
    }
}
