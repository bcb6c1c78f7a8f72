package org.orderlyferry.databases.sqlserver;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.CatalogueQuery;
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
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** The SQL of SQL Server, from version 2016 on: what its scripts hold, and what is asked of it once its driver connects. */
public final class SqlServerSql implements ConnectedSql {

    static final String SYSTEM = "SQL Server";

    private static final NamingRules NAMING = new NamingRules(
                    128,
                    NamingRules.Unit.CHARACTERS,
                    false,
                    true,
                    NamingRules.Scope.SCHEMA,
                    NamingRules.Scope.SCHEMA,
                    NamingRules.Scope.SCHEMA,
                    false,
                    // its names are counted in units of UTF-16, and its shells take a line in a name for one of theirs
                    c -> c >= ' ' && c <= 0xFFFF && c != 0x7F)
            .withNever(SqlServerScripting.VARIABLE);

    private static final String BULK = "bulkCopyForBatchInsert";
    private static final String KEEP = BULK + "Keep";

    /** The driver's own number for it. */
    private static final int SNAPSHOT = 0x1000;

    private final SqlServerDefining defining = new SqlServerDefining(this);
    private final SqlServerScripting scripting = new SqlServerScripting(this);

    @Override
    public String system() {
        return SYSTEM;
    }

    @Override
    public String quote(String name) {
        return "[" + name.replace("]", "]]") + "]";
    }

    @Override
    public NamingRules naming() {
        return NAMING;
    }

    @Override
    public TypeMapping types() {
        return SqlServerTypes.MAPPING;
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
        return "Microsoft SQL Server";
    }

    @Override
    public String urlPrefix() {
        return "jdbc:sqlserver:";
    }

    @Override
    public Catalogue catalogue(Connection connection, String schema) {
        return new SqlServerCatalogue(connection, schema);
    }

    /**
     * Batches go by the driver's own bulk copy where that keeps what is given for a counter: those of before 12.10 don't. It heeds
     * rules and triggers as an INSERT does. And a time isn't sent as a moment, which has fewer digits.
     */
    @Override
    public Map<String, String> properties(Set<String> known, boolean write) {
        Map<String, String> properties = new LinkedHashMap<>();
        properties.put("sendTimeAsDatetime", "false");
        if (write && known.contains(KEEP + "Identity")) {
            properties.put("useBulkCopyForBatchInsert", "true");
            properties.put(KEEP + "Identity", "true");
            properties.put(KEEP + "Nulls", "true");
            properties.put(BULK + "CheckConstraints", "true");
            properties.put(BULK + "FireTriggers", "true");
        }
        properties.keySet().retainAll(known);
        return properties;
    }

    /** Where the database keeps versions of records; elsewhere readers and writers wait for each other. */
    @Override
    public int momentLevel(Connection connection) throws SQLException {
        boolean kept = new CatalogueQuery(connection)
                .any("SELECT 1 FROM sys.databases WHERE name = DB_NAME() AND snapshot_isolation_state = 1");
        return kept ? SNAPSHOT : Connection.TRANSACTION_NONE;
    }

    @Override
    public String momentAdvice() {
        return ", or allow the database snapshots (ALTER DATABASE … SET ALLOW_SNAPSHOT_ISOLATION ON)";
    }

    @Override
    public Optional<String> selected(ColumnDefinition column) {
        String name = quote(column.name());
        return switch (column.sourceType()) {
            case "sql_variant", "vector" -> Optional.of("CAST(" + name + " AS nvarchar(max))");
            case "hierarchyid", "geometry", "geography" -> Optional.of("CAST(" + name + " AS varbinary(max))");
            default -> Optional.empty();
        };
    }

    /** The usual one ends at two thousand million. */
    @Override
    public String counting() {
        return "COUNT_BIG(*)";
    }

    @Override
    public OptionalLong estimate(Session session, TableName table, String schema) throws SQLException {
        return session.value("SELECT SUM(p.[rows])" + SqlServerDefinitions.TABLES
                        + " JOIN sys.partitions p ON p.object_id = t.object_id AND p.index_id IN (0, 1) WHERE s.name = "
                        + DefinitionSql.string(new DefaultSchema(schema).of(table)) + " AND t.name = "
                        + DefinitionSql.string(table.name()))
                .map(Long::parseLong)
                .map(OptionalLong::of)
                .orElse(OptionalLong.empty());
    }

    @Override
    public String renaming(TableName from, String to) {
        return "EXEC sp_rename N" + DefinitionSql.string(quote(from)) + ", N" + DefinitionSql.string(to);
    }

    @Override
    public String lengthOf(String text) {
        return "(DATALENGTH(" + text + ") / 2)";
    }

    /** It ends with a semicolon, which no other statement needs. */
    @Override
    public String update(TableName changed, TableName by, String keys, String differ, List<String> columns) {
        return "MERGE INTO " + quote(changed) + " t USING " + quote(by) + " s ON (" + keys + ") WHEN MATCHED AND "
                + differ
                + " THEN UPDATE SET "
                + columns.stream().map(c -> quote(c) + " = s." + quote(c)).collect(Collectors.joining(", ")) + ";";
    }

    /** What a counter has given can't be changed by any statement; a key's isn't, since records are told apart by it. */
    @Override
    public Optional<String> unmergeable(TableDefinition there, List<ColumnDefinition> columns) {
        return columns.stream()
                .filter(c -> c.identity().isPresent()
                        && there.primaryKey()
                                .filter(k -> k.columns().contains(c.name()))
                                .isEmpty())
                .findFirst()
                .map(
                        c -> "table " + there.name() + ": SQL Server can't change what " + c.name()
                                + " has counted, which is no part of its primary key; leave that column behind, or replace the table");
    }

    @Override
    public Adapting adapting(LoadNotes notes) {
        return new SqlServerAdapting(this, notes, false);
    }

    /** On an object, a column, or the database. */
    @Override
    public boolean isDenied(SQLException error) {
        return error.getErrorCode() == 229 || error.getErrorCode() == 230 || error.getErrorCode() == 262;
    }
}
