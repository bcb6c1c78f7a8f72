package org.orderlyferry.databases.postgresql;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import org.orderlyferry.databases.dialect.AskedTables;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** PostgreSQL's own catalogue, {@code pg_catalog}. */
final class PostgresCatalogue implements Catalogue {

    /** What was replaced and is kept is nobody's table. */
    static final String NOT_KEPT = " n.nspname NOT LIKE '" + ReservedNames.KEPT.replace("_", "\\_") + "%' ";

    static final String NOT_SYSTEM =
            " n.nspname NOT LIKE 'pg\\_%' AND n.nspname <> 'information_schema' AND" + NOT_KEPT;
    static final String HAS_COLUMNS = " EXISTS (SELECT 1 FROM pg_attribute a WHERE a.attrelid = c.oid"
            + " AND a.attnum > 0 AND NOT a.attisdropped)";

    private final CatalogueQuery query;
    private String defaultSchema;
    private PostgresDefinitions together;
    private final AskedTables asked = new AskedTables(this);

    PostgresCatalogue(Connection connection) {
        this.query = new CatalogueQuery(connection);
    }

    private String defaultSchema() throws SQLException {
        if (defaultSchema == null) {
            String[] schema = {null};
            query.each("SELECT current_schema()", row -> schema[0] = row.getString(1));
            defaultSchema = schema[0] == null ? "" : schema[0];
        }
        return defaultSchema;
    }

    TableName name(String schema, String table) throws SQLException {
        return new TableName(schema.equals(defaultSchema()) ? "" : schema, table);
    }

    /** Schema and name, as parameters of a query. */
    String[] place(TableName table) throws SQLException {
        return new String[] {table.schema().isEmpty() ? defaultSchema() : table.schema(), table.name()};
    }

    @Override
    public List<TableName> tables() throws SQLException {
        return tables("");
    }

    @Override
    public boolean has(TableName table) throws SQLException {
        return tables("AND c.relname = ? ", table.name()).contains(table);
    }

    private List<TableName> tables(String condition, String... parameters) throws SQLException {
        List<TableName> tables = new ArrayList<>();
        // a partitioned table is one table, and its partitions are none of their own
        query.each(
                "SELECT n.nspname, c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE c.relkind IN ('r', 'p') AND NOT c.relispartition AND" + HAS_COLUMNS + " AND"
                        + NOT_SYSTEM + condition
                        + "ORDER BY 1, 2",
                row -> tables.add(name(row.getString(1), row.getString(2))),
                parameters);
        return tables;
    }

    @Override
    public List<TableName> referrers(Set<TableName> to) throws SQLException {
        Set<TableName> referrers = new TreeSet<>();
        if (!to.isEmpty()) {
            query.each(
                    "SELECT n.nspname, c.relname, tn.nspname, t.relname FROM pg_constraint k JOIN pg_class c ON c.oid ="
                            + " k.conrelid JOIN pg_namespace n ON n.oid = c.relnamespace JOIN pg_class t ON t.oid ="
                            + " k.confrelid JOIN pg_namespace tn ON tn.oid = t.relnamespace WHERE k.contype = 'f' AND NOT"
                            + " c.relispartition AND"
                            + NOT_SYSTEM,
                    row -> {
                        if (to.contains(name(row.getString(3), row.getString(4)))) {
                            referrers.add(name(row.getString(1), row.getString(2)));
                        }
                    });
        }
        return List.copyOf(referrers);
    }

    @Override
    public Map<TableName, List<String>> indexNames() throws SQLException {
        Map<TableName, List<String>> names = new LinkedHashMap<>();
        query.each(
                "SELECT n.nspname, c.relname, x.relname FROM pg_index i JOIN pg_class x ON x.oid = i.indexrelid JOIN"
                        + " pg_class c ON c.oid = i.indrelid JOIN pg_namespace n ON n.oid = c.relnamespace WHERE"
                        + NOT_SYSTEM,
                row -> names.computeIfAbsent(name(row.getString(1), row.getString(2)), t -> new ArrayList<>())
                        .add(row.getString(3)));
        return names;
    }

    /** What stands in the schema that the session is in goes by its name alone. */
    @Override
    public UnaryOperator<TableName> held() throws SQLException {
        String own = defaultSchema();
        return name -> !own.isEmpty() && name.schema().equals(own) ? TableName.of(name.name()) : name;
    }

    /** A table brings a type of its name along. */
    @Override
    public Map<TableName, String> otherNames() throws SQLException {
        Map<TableName, String> names = new LinkedHashMap<>();
        query.each(
                "SELECT n.nspname, c.relname, CASE c.relkind WHEN 'v' THEN 'a view' WHEN 'm' THEN 'a materialized view'"
                        + " WHEN 'S' THEN 'a sequence' WHEN 'f' THEN 'a foreign table' WHEN 'r' THEN 'a partition' WHEN 'p'"
                        + " THEN 'a partition' WHEN 'c' THEN 'a type' ELSE 'an index' END FROM pg_class c JOIN pg_namespace n"
                        + " ON n.oid = c.relnamespace WHERE NOT (c.relkind IN ('r', 'p') AND NOT c.relispartition) AND"
                        + NOT_SYSTEM
                        + "UNION ALL SELECT n.nspname, t.typname, 'a type' FROM pg_type t JOIN pg_namespace n ON n.oid ="
                        + " t.typnamespace WHERE t.typrelid = 0 AND t.typelem = 0 AND"
                        + NOT_SYSTEM,
                row -> names.putIfAbsent(name(row.getString(1), row.getString(2)), row.getString(3)));
        return names;
    }

    @Override
    public TableDefinition define(TableName table) throws SQLException {
        if (together == null && asked.enough()) {
            together = PostgresDefinitions.all(query, this);
        }
        Optional<TableDefinition> known = together == null ? Optional.empty() : together.built(table);
        // one that has been made since is asked for alone
        return known.isPresent()
                ? known.get()
                : PostgresDefinitions.one(query, this, table).built(table).orElseThrow();
    }

    @Override
    public boolean changesWhatComes(TableName table) throws SQLException {
        // partitions may have triggers of their own
        return query.any(
                "WITH RECURSIVE t (oid) AS (SELECT c.oid FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE n.nspname = ? AND c.relname = ? UNION SELECT i.inhrelid FROM pg_inherits i JOIN t ON"
                        + " i.inhparent = t.oid) SELECT 1 FROM t WHERE EXISTS (SELECT 1 FROM pg_trigger g WHERE"
                        + " g.tgrelid = t.oid AND NOT g.tgisinternal) OR EXISTS (SELECT 1 FROM pg_rewrite r WHERE"
                        + " r.ev_class = t.oid) LIMIT 1",
                place(table));
    }

    @Override
    public List<LeftBehind> leftBehind() throws SQLException {
        return new PostgresLeftBehind(this, query).all();
    }
}
