package org.orderlyferry.databases.oracle;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Types;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.CellBinder;
import org.orderlyferry.databases.dialect.ConnectedSql;
import org.orderlyferry.databases.dialect.DefaultSchema;
import org.orderlyferry.databases.dialect.Defining;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.text.JavaValues;

/** The SQL of Oracle, from version 12.2 on: what its scripts hold, and what is asked of it once its driver connects. */
public final class OracleSql implements ConnectedSql {

    static final String SYSTEM = "Oracle";

    /** Nothing stands for a quote inside of quotes there. */
    private static final NamingRules NAMING = new NamingRules(
                    128,
                    NamingRules.Unit.BYTES,
                    true,
                    true,
                    NamingRules.Scope.SCHEMA,
                    NamingRules.Scope.SCHEMA,
                    NamingRules.Scope.SCHEMA,
                    false,
                    c -> c >= ' ' && c != '"' && c != 0x7F)
            .withOwnColumns("ROWID");

    /** The driver's own codes. */
    private static final int BINARY_FLOAT = 100;

    private static final int BINARY_DOUBLE = 101;
    private static final int TIMESTAMP_WITH_ZONE = -101;

    private final OracleDefining defining = new OracleDefining(this);
    private final OracleScripting scripting = new OracleScripting(this);

    @Override
    public String system() {
        return SYSTEM;
    }

    /**
     * A name in quotes.
     *
     * @throws UsageException if it holds a quote, for which its SQL has no way
     */
    @Override
    public String quote(String name) {
        if (name.indexOf('"') >= 0) {
            throw new UsageException("Oracle has no names with a quote in them, as in " + name);
        }
        return '"' + name + '"';
    }

    @Override
    public NamingRules naming() {
        return NAMING;
    }

    @Override
    public TypeMapping types() {
        return OracleTypes.MAPPING;
    }

    @Override
    public Defining defining() {
        return defining;
    }

    @Override
    public Scripting scripting() {
        return scripting;
    }

    @Override
    public String product() {
        return SYSTEM;
    }

    @Override
    public String urlPrefix() {
        return "jdbc:oracle:";
    }

    @Override
    public Catalogue catalogue(Connection connection, String schema) {
        return new OracleCatalogue(connection, schema);
    }

    /** Readers there see the moment of their transaction's beginning, and keep nobody from writing. */
    @Override
    public int momentLevel(Connection connection) {
        return Connection.TRANSACTION_SERIALIZABLE;
    }

    @Override
    public Optional<String> selected(ColumnDefinition column) {
        String name = quote(column.name());
        String own = column.sourceType();
        if (own.startsWith("INTERVAL")) {
            return Optional.of("TO_CHAR(" + name + ")");
        }
        return switch (own) {
            case "XMLTYPE" -> Optional.of("XMLSERIALIZE(CONTENT " + name + " AS CLOB)");
            case "JSON" -> Optional.of("JSON_SERIALIZE(" + name + " RETURNING CLOB)");
            case "VECTOR" -> Optional.of("FROM_VECTOR(" + name + " RETURNING CLOB)");
            case "ROWID", "UROWID" -> Optional.of("ROWIDTOCHAR(" + name + ")");
            default -> Optional.empty();
        };
    }

    @Override
    public OptionalLong estimate(Session session, TableName table, String schema) throws SQLException {
        return session.value("SELECT t.NUM_ROWS FROM SYS.ALL_TABLES t WHERE t.OWNER = "
                        + DefinitionSql.string(new DefaultSchema(schema).of(table))
                        + " AND t.TABLE_NAME = " + DefinitionSql.string(table.name()))
                .map(Long::parseLong)
                .map(OptionalLong::of)
                .orElse(OptionalLong.empty());
    }

    @Override
    public String renaming(TableName from, String to) {
        return "ALTER TABLE " + quote(from) + " RENAME TO " + quote(to);
    }

    @Override
    public String lengthOf(String text) {
        return "LENGTH(" + text + ")";
    }

    /** Its MERGE can't set what the records are told apart by, nor tell beforehand which of them change. */
    @Override
    public String update(TableName changed, TableName by, String keys, String differ, List<String> columns) {
        String from = " FROM " + quote(by) + " s WHERE " + keys;
        return "UPDATE " + quote(changed) + " t SET ("
                + columns.stream().map(this::quote).collect(Collectors.joining(", ")) + ") = (SELECT "
                + columns.stream().map(c -> "s." + quote(c)).collect(Collectors.joining(", ")) + from
                + ") WHERE EXISTS (SELECT 1" + from + " AND " + differ + ")";
    }

    /** A counter that takes no values would keep whatever is loaded later away. */
    @Override
    public Adapting adapting(LoadNotes notes) {
        return new OracleAdapting(this, notes, false);
    }

    @Override
    public Optional<String> refusing(TableDefinition there) {
        return there.columns().stream()
                .filter(c -> c.identity().filter(Identity::always).isPresent())
                .findFirst()
                .map(c -> "table " + there.name() + " takes no values for " + c.name()
                        + ", which always counts (GENERATED ALWAYS); let it count BY DEFAULT for the load");
    }

    /** ORA-01031: insufficient privileges. */
    @Override
    public boolean isDenied(SQLException error) {
        return error.getErrorCode() == 1031;
    }

    /** Its driver makes a NUMBER of what setDouble is given, which holds neither the smallest nor the largest of them. */
    @Override
    public Optional<CellBinder> binder(LogicalType type) {
        return switch (type.name()) {
            case DOUBLE ->
                Optional.of((statement, i, batch, row, column) ->
                        statement.setObject(i, JavaValues.doubleOf(batch.text(row, column)), BINARY_DOUBLE));
            case REAL ->
                Optional.of((statement, i, batch, row, column) ->
                        statement.setObject(i, JavaValues.floatOf(batch.text(row, column)), BINARY_FLOAT));
            default -> Optional.empty();
        };
    }

    /** It has had truth values since version 23 only, and moments with a zone by a number of its own. */
    @Override
    public int nullCode(LogicalType type, int usual) {
        return switch (type.name()) {
            case BOOLEAN -> Types.NUMERIC;
            case TIMESTAMP_WITH_TIME_ZONE -> TIMESTAMP_WITH_ZONE;
            default -> usual;
        };
    }
}
