package org.orderlyferry.databases.postgresql;

import java.sql.Array;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.Catalogue;
import org.orderlyferry.databases.CatalogueQuery;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** PostgreSQL's own catalogue, {@code pg_catalog}. */
final class PostgresCatalogue implements Catalogue {

    private static final String NOT_SYSTEM = " n.nspname NOT LIKE 'pg\\_%' AND n.nspname <> 'information_schema' ";
    private static final Map<String, ReferentialAction> ACTIONS = Map.of(
            "a", ReferentialAction.NO_ACTION,
            "r", ReferentialAction.RESTRICT,
            "c", ReferentialAction.CASCADE,
            "n", ReferentialAction.SET_NULL,
            "d", ReferentialAction.SET_DEFAULT);

    private final CatalogueQuery query;
    private final String defaultSchema;

    PostgresCatalogue(Connection connection) throws SQLException {
        this.query = new CatalogueQuery(connection);
        String[] schema = {"public"};
        query.each("SELECT current_schema()", row -> schema[0] = row.getString(1));
        this.defaultSchema = schema[0] == null ? "" : schema[0];
    }

    private TableName name(String schema, String table) {
        return new TableName(schema.equals(defaultSchema) ? "" : schema, table);
    }

    private String[] place(TableName table) {
        return new String[] {table.schema().isEmpty() ? defaultSchema : table.schema(), table.name()};
    }

    private static List<String> texts(ResultSet row, int index) throws SQLException {
        Array array = row.getArray(index);
        return array == null ? List.of() : List.of((String[]) array.getArray());
    }

    @Override
    public List<TableName> tables() throws SQLException {
        List<TableName> tables = new ArrayList<>();
        // a partitioned table is one table, and its partitions are none of their own
        query.each(
                "SELECT n.nspname, c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE c.relkind IN ('r', 'p') AND NOT c.relispartition AND" + NOT_SYSTEM + "ORDER BY 1, 2",
                row -> tables.add(name(row.getString(1), row.getString(2))));
        return tables;
    }

    @Override
    public TableDefinition define(TableName table) throws SQLException {
        TableDefinition.Builder builder = TableDefinition.named(table);
        String[] place = place(table);
        columns(builder, place);
        query.each(
                "SELECT obj_description(c.oid, 'pg_class') FROM pg_class c JOIN pg_namespace n ON n.oid ="
                        + " c.relnamespace WHERE n.nspname = ? AND c.relname = ?",
                row -> builder.comment(Optional.ofNullable(row.getString(1)).orElse("")),
                place);
        constraints(builder, place);
        indexes(builder, place);
        return builder.build();
    }

    private void columns(TableDefinition.Builder builder, String... place) throws SQLException {
        query.each(
                "SELECT a.attname, CASE WHEN t.typtype = 'd' THEN format_type(t.typbasetype, t.typtypmod)"
                        + " ELSE format_type(a.atttypid, a.atttypmod) END, a.attnotnull OR t.typnotnull,"
                        + " pg_get_expr(d.adbin, d.adrelid), a.attidentity::text, a.attgenerated::text,"
                        + " col_description(c.oid, a.attnum), s.seqstart, s.seqincrement,"
                        + " s.seqrelid::regclass::text"
                        + " FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid"
                        + " JOIN pg_namespace n ON n.oid = c.relnamespace JOIN pg_type t ON t.oid = a.atttypid"
                        + " LEFT JOIN pg_attrdef d ON d.adrelid = c.oid AND d.adnum = a.attnum"
                        + " LEFT JOIN (pg_depend o JOIN pg_sequence s ON s.seqrelid = o.objid)"
                        + " ON o.refobjid = c.oid AND o.refobjsubid = a.attnum AND o.deptype IN ('a', 'i')"
                        + " AND o.refclassid = 'pg_class'::regclass AND o.classid = 'pg_class'::regclass"
                        + " WHERE n.nspname = ? AND c.relname = ? AND a.attnum > 0 AND NOT a.attisdropped"
                        + " ORDER BY a.attnum",
                row -> builder.column(column(row)),
                place);
    }

    private ColumnDefinition column(ResultSet row) throws SQLException {
        String formatted = row.getString(2);
        LogicalType type = PostgresTypes.logical(formatted);
        String defaultSql = row.getString(4);
        String identityKind = row.getString(5);
        boolean generated = !row.getString(6).isEmpty();
        long start = row.getLong(8);
        boolean counted =
                !row.wasNull() && (!identityKind.isEmpty() || defaultSql != null && defaultSql.startsWith("nextval("));
        return new ColumnDefinition(
                row.getString(1),
                type,
                !row.getBoolean(3),
                counted || generated ? Optional.empty() : PostgresDefaults.read(defaultSql, type),
                counted
                        ? Optional.of(new Identity(
                                identityKind.equals("a"),
                                start,
                                row.getLong(9),
                                next(row.getString(10), start, row.getLong(9))))
                        : Optional.empty(),
                generated ? Optional.ofNullable(defaultSql) : Optional.empty(),
                formatted,
                Optional.ofNullable(row.getString(7)).orElse(""));
    }

    /** The value that a sequence would give next; only the sequence itself knows whether its last one was given out. */
    private long next(String sequence, long start, long increment) throws SQLException {
        long[] next = {start};
        boolean[] allowed = {false};
        query.each("SELECT has_sequence_privilege(?, 'SELECT')", row -> allowed[0] = row.getBoolean(1), sequence);
        if (!allowed[0]) {
            // a load goes past the highest value anyway
            return start;
        }
        query.each("SELECT last_value, is_called FROM " + sequence, row -> {
            next[0] = row.getBoolean(2) ? row.getLong(1) + increment : row.getLong(1);
        });
        return next[0];
    }

    /** The names of a relation's columns, given their numbers. */
    private static String columnsOf(String relation, String numbers) {
        return "(SELECT array_agg(ca.attname::text ORDER BY cn.i) FROM unnest(" + numbers
                + ") WITH ORDINALITY AS cn(n, i) JOIN pg_attribute ca ON ca.attrelid = " + relation
                + " AND ca.attnum = cn.n)";
    }

    private void constraints(TableDefinition.Builder builder, String... place) throws SQLException {
        query.each(
                "SELECT k.conname, k.contype::text, " + columnsOf("k.conrelid", "k.conkey")
                        + ", fn.nspname, f.relname, "
                        + columnsOf("k.confrelid", "k.confkey")
                        + ", k.confupdtype::text, k.confdeltype::text, pg_get_expr(k.conbin, k.conrelid)"
                        + " FROM pg_constraint k JOIN pg_class c ON c.oid = k.conrelid"
                        + " JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " LEFT JOIN pg_class f ON f.oid = k.confrelid"
                        + " LEFT JOIN pg_namespace fn ON fn.oid = f.relnamespace"
                        + " WHERE n.nspname = ? AND c.relname = ? AND k.conparentid = 0 ORDER BY k.conname",
                row -> constraint(builder, row),
                place);
    }

    private void constraint(TableDefinition.Builder builder, ResultSet row) throws SQLException {
        String name = row.getString(1);
        switch (row.getString(2)) {
            case "p" -> builder.primaryKey(new Key(name, texts(row, 3)));
            case "u" -> builder.unique(new Key(name, texts(row, 3)));
            case "f" ->
                builder.foreignKey(new ForeignKey(
                        name,
                        texts(row, 3),
                        name(row.getString(4), row.getString(5)),
                        texts(row, 6),
                        ACTIONS.get(row.getString(7)),
                        ACTIONS.get(row.getString(8))));
            case "c" -> builder.check(new CheckConstraint(name, row.getString(9), PostgresDialect.SYSTEM));
            default -> {
                // exclusion and trigger constraints are left behind; NOT NULL stands at the column
            }
        }
    }

    private void indexes(TableDefinition.Builder builder, String... place) throws SQLException {
        query.each(
                "SELECT ic.relname, i.indisunique, " + columnsOf("i.indrelid", "i.indkey::int2[]")
                        + ", (SELECT array_agg(((o & 1) = 1)::text) FROM unnest(i.indoption::int2[]) o)"
                        + " FROM pg_index i JOIN pg_class ic ON ic.oid = i.indexrelid"
                        + " JOIN pg_class c ON c.oid = i.indrelid JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE n.nspname = ? AND c.relname = ? AND i.indexprs IS NULL AND i.indpred IS NULL"
                        + " AND NOT EXISTS (SELECT 1 FROM pg_constraint k WHERE k.conindid = i.indexrelid AND k.contype IN"
                        + " ('p', 'u', 'x')) ORDER BY 1",
                row -> {
                    List<String> columns = texts(row, 3);
                    List<String> descending = texts(row, 4);
                    List<IndexDefinition.Part> parts = new ArrayList<>();
                    for (int part = 0; part < descending.size(); part++) {
                        parts.add(new IndexDefinition.Part(
                                columns.get(part), descending.get(part).equals("true")));
                    }
                    builder.index(new IndexDefinition(row.getString(1), row.getBoolean(2), parts));
                },
                place);
    }

    @Override
    public List<LeftBehind> leftBehind() throws SQLException {
        List<LeftBehind> all = new ArrayList<>();
        String own = "its SQL is PostgreSQL's own; make it anew at the target";
        query.each(
                "SELECT CASE c.relkind WHEN 'v' THEN 'view' WHEN 'm' THEN 'materialized view' ELSE 'foreign table' END,"
                        + " n.nspname, c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE c.relkind IN ('v', 'm', 'f') AND" + NOT_SYSTEM + "ORDER BY 1, 2, 3",
                row -> all.add(new LeftBehind(
                        row.getString(1),
                        name(row.getString(2), row.getString(3)).toString(),
                        own)));
        query.each(
                "SELECT c.relname, t.tgname FROM pg_trigger t JOIN pg_class c ON c.oid = t.tgrelid"
                        + " JOIN pg_namespace n ON n.oid = c.relnamespace WHERE NOT t.tgisinternal AND" + NOT_SYSTEM
                        + "ORDER BY 1, 2",
                row -> all.add(new LeftBehind("trigger", row.getString(1) + "." + row.getString(2), own)));
        query.each(
                "SELECT p.proname FROM pg_proc p JOIN pg_namespace n ON n.oid = p.pronamespace WHERE" + NOT_SYSTEM
                        + "AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e')"
                        + " ORDER BY 1",
                row -> all.add(new LeftBehind("routine", row.getString(1), own)));
        query.each(
                "SELECT c.relname, ic.relname FROM pg_index i JOIN pg_class ic ON ic.oid = i.indexrelid"
                        + " JOIN pg_class c ON c.oid = i.indrelid JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE (i.indexprs IS NOT NULL OR i.indpred IS NOT NULL) AND" + NOT_SYSTEM + "ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "index", row.getString(1) + "." + row.getString(2), "it is partial or by an expression")));
        query.each(
                "SELECT c.relname, a.attname, format_type(a.atttypid, a.atttypmod), t.typtype::text"
                        + " FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid JOIN pg_namespace n"
                        + " ON n.oid = c.relnamespace JOIN pg_type t ON t.oid = a.atttypid"
                        + " WHERE c.relkind IN ('r', 'p') AND a.attnum > 0 AND NOT a.attisdropped AND" + NOT_SYSTEM
                        + "ORDER BY 1, 2",
                row -> {
                    String type = row.getString(3);
                    String where = row.getString(1) + "." + row.getString(2);
                    if (row.getString(4).equals("d")) {
                        all.add(new LeftBehind(
                                "domain", where, "the column arrives as the type that " + type + " is made of"));
                    } else if (PostgresTypes.isCarriedAsText(type) && !type.equals("text")) {
                        all.add(new LeftBehind("type", where, "values of " + type + " are carried as text"));
                    }
                });
        return all;
    }
}
