package org.orderlyferry.databases.driver;

import java.sql.DatabaseMetaData;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Base64;
import java.util.EnumSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.CellBinder;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.IdentityRestart;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.ReferenceRules;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.databases.driver.Trial.Lost;
import org.orderlyferry.databases.lane.BatchWriter;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordWriter;

/** How tables and records are put into a system by its driver alone: ISO SQL and prepared batches. */
class DriverWriting implements Writing {

    private static final ReferenceRules OF_MOST = new ReferenceRules(
            EnumSet.allOf(ReferentialAction.class),
            EnumSet.allOf(ReferentialAction.class),
            true,
            ReferenceRules.Paths.ANY,
            ReferenceRules.Referred.KEYS);

    private static final ReferenceRules OF_DB2 = new ReferenceRules(
            EnumSet.of(ReferentialAction.NO_ACTION, ReferentialAction.RESTRICT),
            EnumSet.complementOf(EnumSet.of(ReferentialAction.SET_DEFAULT)),
            true,
            ReferenceRules.Paths.ALIKE,
            ReferenceRules.Referred.KEYS);

    final DriverDialect dialect;
    private final DefinitionSql sql;

    DriverWriting(DriverDialect dialect) {
        this.dialect = dialect;
        this.sql = new DefinitionSql(dialect);
    }

    @Override
    public Adapting adapting(LoadNotes notes) {
        return new DriverAdapting(dialect, notes);
    }

    @Override
    public ValueLimit limit(TableName table, ColumnDefinition column, LoadNotes notes) {
        TypeName type = column.type().name();
        Set<Lost> lost = dialect.trial().lost();
        if (type.isText() || type == TypeName.JSON || type == TypeName.XML || type == TypeName.INTERVAL) {
            return DriverLimits.text(lost, dialect.system());
        } else if (type.isApproximateNumber()) {
            ValueLimit limit = DriverLimits.number(lost, dialect.system());
            return lost.contains(Lost.MINUS_ZERO)
                    ? limit.and(ValueLimit.unsignedZero(table, column.name(), dialect.system(), notes))
                    : limit;
        } else if (DriverCells.isTimed(type)) {
            ValueLimit limit =
                    DriverLimits.unshifted(dialect.trial().shifted().getOrDefault(type, Set.of()), dialect.system());
            Integer digits = dialect.trial().digits().get(type);
            return digits == null ? limit : limit.and(ValueLimit.fraction(digits, dialect.system()));
        }
        return ValueLimit.NONE;
    }

    @Override
    public RecordWriter writer(Session session, TableDefinition into, TableName shown) throws SQLException {
        List<ColumnDefinition> columns =
                into.columns().stream().filter(c -> c.generation().isEmpty()).toList();
        String names = sql.names(columns.stream().map(ColumnDefinition::name).toList());
        return new BatchWriter(
                session,
                "INSERT INTO " + dialect.quote(into.name()) + " (" + names + ") VALUES ("
                        + columns.stream().map(c -> "?").collect(Collectors.joining(", ")) + ")",
                into,
                shown,
                true,
                c -> binder(c.type()),
                c -> nullCode(c.type()));
    }

    CellBinder binder(LogicalType type) {
        return DriverCells.binder(type, dialect.trial().binding(type.name()));
    }

    int nullCode(LogicalType type) {
        return DriverCells.code(type);
    }

    @Override
    public List<String> createStatements(TableDefinition table) {
        List<String> parts = new ArrayList<>();
        table.columns().forEach(c -> parts.add(column(c)));
        table.primaryKey().ifPresent(key -> parts.add(sql.primaryKey(key)));
        return List.of("CREATE TABLE " + dialect.quote(table.name()) + " (\n  " + String.join(",\n  ", parts) + "\n)");
    }

    private String column(ColumnDefinition column) {
        StringBuilder text =
                new StringBuilder(dialect.quote(column.name())).append(' ').append(column.sourceType());
        column.generation().ifPresent(rule -> text.append(" GENERATED ALWAYS AS (")
                .append(rule.expression().sql())
                .append(')'));
        // ISO/IEC 9075-2 has the default in front of constraints
        column.defaultValue().ifPresent(value -> text.append(" DEFAULT ").append(literal(value, column.type())));
        column.identity().ifPresent(identity -> text.append(identity(identity)));
        return text.append(column.nullable() ? "" : " NOT NULL").toString();
    }

    private static String identity(Identity identity) {
        return " GENERATED BY DEFAULT AS IDENTITY"
                + (identity.start() == 1 && identity.increment() == 1
                        ? ""
                        : " (START WITH " + identity.start() + ", INCREMENT BY " + identity.increment() + ")");
    }

    private static String literal(ColumnDefault value, LogicalType type) {
        if (value instanceof ColumnDefault.Expression expression) {
            return expression.sql();
        }
        String text = ((ColumnDefault.Literal) value).text();
        return switch (type.name()) {
            case BOOLEAN -> text.toUpperCase(Locale.ROOT);
            case SMALLINT, INTEGER, BIGINT, DECIMAL, REAL, DOUBLE ->
                text.matches("-?[0-9.]+([eE]-?[0-9]+)?") ? text : DefinitionSql.string(text);
            case BINARY, VARBINARY, BLOB ->
                "X'" + HexFormat.of().formatHex(Base64.getDecoder().decode(text)) + "'";
            case TIMESTAMP -> DefinitionSql.string(text.replace('T', ' '));
            default -> DefinitionSql.string(text);
        };
    }

    /** Keys and indexes come when tables have their names: systems rename a table with its rules seldom, and their rules never. */
    @Override
    public List<String> keyStatements(TableDefinition table) {
        return List.of();
    }

    /** What drivers don't tell: most systems refuse what could never be done. */
    @Override
    public ReferenceRules references() {
        return dialect.keepsToRulesOfDb2() ? OF_DB2 : OF_MOST;
    }

    /** With the last steps. */
    @Override
    public List<String> referenceStatements(TableDefinition table) {
        return List.of();
    }

    @Override
    public List<String> counterStatements(Session session, TableDefinition table) throws SQLException {
        return IdentityRestart.statements(session, table);
    }

    /** Apache Derby needs the very type, with its length, and none needs another one. */
    @Override
    public boolean canRefer(ColumnDefinition mine, ColumnDefinition its) {
        return mine.type().equals(its.type());
    }

    @Override
    public Settling settling() {
        return new DriverSettling(dialect);
    }

    @Override
    public boolean rollsBackDefinitions() {
        return false;
    }

    @Override
    public boolean forgetsTrials(Session session) throws SQLException {
        DatabaseMetaData data = session.connection().getMetaData();
        return data.supportsTransactions()
                && !data.dataDefinitionCausesTransactionCommit()
                && !data.dataDefinitionIgnoredInTransactions();
    }

    @Override
    public String lengthOf(String text) {
        return "{fn LENGTH(" + text + ")}";
    }

    /** TRUNCATE isn't everywhere. */
    @Override
    public String emptying(Session session, TableName table) {
        return "DELETE FROM " + dialect.quote(table);
    }

    @Override
    public List<String> schemas(Session session) throws SQLException {
        List<String> schemas = new ArrayList<>();
        if (dialect.traits().naming().schemas()) {
            try (ResultSet row = session.connection().getMetaData().getSchemas()) {
                while (row.next()) {
                    schemas.add(row.getString("TABLE_SCHEM"));
                }
            }
        }
        return schemas;
    }
}
