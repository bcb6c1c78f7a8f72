package org.orderlyferry.databases.mariadb;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import org.orderlyferry.databases.dialect.AskedTables;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** MariaDB's own catalogue: the INFORMATION_SCHEMA of the database that the connection is in. */
final class MariaCatalogue implements Catalogue {

    static final String HERE = " TABLE_SCHEMA = DATABASE() AND TABLE_NAME = ? ";

    /** To a table, and to a column. */
    private static final Set<Integer> DENIED = Set.of(1142, 1143);

    private final Connection connection;
    private final UnaryOperator<String> quote;
    private final CatalogueQuery query;
    private MariaDefinitions together;
    private final AskedTables asked = new AskedTables(this);

    MariaCatalogue(Connection connection, UnaryOperator<String> quote) {
        this.connection = connection;
        this.quote = quote;
        this.query = new CatalogueQuery(connection);
    }

    /** Whether a user may not read a table, or a column. */
    static boolean isDenied(SQLException error) {
        return DENIED.contains(error.getErrorCode());
    }

    @Override
    public List<TableName> tables() throws SQLException {
        return tables(" TABLE_SCHEMA = DATABASE() ");
    }

    @Override
    public boolean has(TableName table) throws SQLException {
        return tables(HERE, table.name()).contains(table);
    }

    private List<TableName> tables(String which, String... parameters) throws SQLException {
        List<TableName> tables = new ArrayList<>();
        query.each(
                "SELECT TABLE_NAME FROM information_schema.TABLES WHERE" + which
                        + "AND TABLE_TYPE IN ('BASE TABLE', 'SYSTEM VERSIONED') ORDER BY 1",
                row -> tables.add(TableName.of(row.getString(1))),
                parameters);
        return tables;
    }

    @Override
    public List<TableName> referrers(Set<TableName> to) throws SQLException {
        Set<TableName> referrers = new TreeSet<>();
        if (!to.isEmpty()) {
            query.each(
                    "SELECT TABLE_NAME, REFERENCED_TABLE_NAME, IF(UNIQUE_CONSTRAINT_SCHEMA = DATABASE(), '',"
                            + " UNIQUE_CONSTRAINT_SCHEMA) FROM information_schema.REFERENTIAL_CONSTRAINTS"
                            + " WHERE CONSTRAINT_SCHEMA = DATABASE()",
                    row -> {
                        if (to.contains(new TableName(row.getString(3), row.getString(2)))) {
                            referrers.add(TableName.of(row.getString(1)));
                        }
                    });
        }
        return List.copyOf(referrers);
    }

    @Override
    public UnaryOperator<TableName> held() throws SQLException {
        int[] lowered = {0};
        query.each("SELECT @@lower_case_table_names", row -> lowered[0] = row.getInt(1));
        if (lowered[0] == 0) {
            return Catalogue.super.held();
        }
        List<TableName> there = tables();
        return name -> Catalogue.alike(there, name)
                .orElse(lowered[0] == 1 ? TableName.of(name.name().toLowerCase(Locale.ROOT)) : name);
    }

    @Override
    public Map<TableName, String> otherNames() throws SQLException {
        Map<TableName, String> names = new LinkedHashMap<>();
        query.each(
                "SELECT TABLE_NAME, CASE TABLE_TYPE WHEN 'SEQUENCE' THEN 'a sequence' ELSE 'a view' END FROM"
                        + " information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE() AND TABLE_TYPE NOT IN ('BASE TABLE',"
                        + " 'SYSTEM VERSIONED')",
                row -> names.put(TableName.of(row.getString(1)), row.getString(2)));
        return names;
    }

    @Override
    public TableDefinition define(TableName table) throws SQLException {
        if (together == null && asked.enough()) {
            together = MariaDefinitions.all(connection, quote, tables());
        }
        Optional<TableDefinition> known = together == null ? Optional.empty() : together.built(table);
        // one that has been made since is asked for alone
        return known.isPresent()
                ? known.get()
                : MariaDefinitions.one(connection, quote, table).built(table).orElseThrow();
    }

    @Override
    public boolean changesWhatComes(TableName table) throws SQLException {
        return query.any(
                "SELECT 1 FROM information_schema.TRIGGERS WHERE EVENT_OBJECT_SCHEMA = DATABASE() AND"
                        + " EVENT_OBJECT_TABLE = ? LIMIT 1",
                table.name());
    }

    @Override
    public List<LeftBehind> leftBehind() throws SQLException {
        return new MariaLeftBehind(connection, query).all();
    }
}
