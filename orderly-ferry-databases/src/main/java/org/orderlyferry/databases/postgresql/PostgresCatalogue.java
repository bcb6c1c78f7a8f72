package org.orderlyferry.databases.postgresql;

import java.sql.Array;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** PostgreSQL's own catalogue, {@code pg_catalog}. */
final class PostgresCatalogue implements Catalogue {

    static final String NOT_SYSTEM = " n.nspname NOT LIKE 'pg\\_%' AND n.nspname <> 'information_schema' ";
    static final String HAS_COLUMNS = " EXISTS (SELECT 1 FROM pg_attribute a WHERE a.attrelid = c.oid"
            + " AND a.attnum > 0 AND NOT a.attisdropped)";
    private static final Map<String, ReferentialAction> ACTIONS = Map.of(
            "a", ReferentialAction.NO_ACTION,
            "r", ReferentialAction.RESTRICT,
            "c", ReferentialAction.CASCADE,
            "n", ReferentialAction.SET_NULL,
            "d", ReferentialAction.SET_DEFAULT);

    private final CatalogueQuery query;
    private String defaultSchema;

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

    private String[] place(TableName table) throws SQLException {
        return new String[] {table.schema().isEmpty() ? defaultSchema() : table.schema(), table.name()};
    }

    private static List<String> texts(ResultSet row, int index) throws SQLException {
        Array array = row.getArray(index);
        return array == null ? List.of() : List.of((String[]) array.getArray());
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
        TableDefinition.Builder builder = TableDefinition.named(table).system(PostgresDialect.SYSTEM);
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
                        + " ELSE format_type(a.atttypid, a.atttypmod) END, a.attnotnull AND"
                        + UnusualRules.NOT_NULL_HOLDS
                        + "OR t.typnotnull,"
                        + " pg_get_expr(d.adbin, d.adrelid), a.attidentity::text, a.attgenerated::text,"
                        + " col_description(c.oid, a.attnum), s.seqstart, s.seqincrement,"
                        + " s.seqrelid::regclass::text, CASE WHEN a.attcollation <> t.typcollation AND a.attcollation"
                        + " <> 0 THEN a.attcollation::regcollation::text END, t.typtype::text,"
                        + " (SELECT array_agg(e.enumlabel::text ORDER BY e.enumsortorder) FROM pg_enum e"
                        + " WHERE e.enumtypid = t.oid), t.typname, (SELECT array_agg(pg_get_expr(k.conbin, 0))"
                        + " FROM pg_constraint k WHERE k.contypid = t.oid AND k.contype = 'c')"
                        + " FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid"
                        + " JOIN pg_namespace n ON n.oid = c.relnamespace JOIN pg_type t ON t.oid = a.atttypid"
                        + " LEFT JOIN pg_attrdef d ON d.adrelid = c.oid AND d.adnum = a.attnum"
                        + " LEFT JOIN (pg_depend o JOIN pg_sequence s ON s.seqrelid = o.objid)"
                        + " ON o.refobjid = c.oid AND o.refobjsubid = a.attnum AND o.deptype IN ('a', 'i')"
                        + " AND o.refclassid = 'pg_class'::regclass AND o.classid = 'pg_class'::regclass"
                        + " WHERE n.nspname = ? AND c.relname = ? AND a.attnum > 0 AND NOT a.attisdropped"
                        + " ORDER BY a.attnum",
                row -> {
                    ColumnDefinition column = column(row);
                    builder.column(column);
                    for (String check : texts(row, 15)) {
                        builder.check(new CheckConstraint("", ofDomain(check, column.name()), PostgresDialect.SYSTEM));
                    }
                },
                place);
    }

    /** A domain's check as the check of a column: VALUE stands for it there. */
    private static String ofDomain(String check, String column) {
        StringBuilder text = new StringBuilder();
        int done = 0;
        for (SqlToken token : SqlToken.of(check)) {
            if (token.is("VALUE")) {
                text.append(check, done, token.start())
                        .append('"')
                        .append(column.replace("\"", "\"\""))
                        .append('"');
                done = token.end();
            }
        }
        return text.append(check.substring(done)).toString();
    }

    private ColumnDefinition column(ResultSet row) throws SQLException {
        String formatted = row.getString(2);
        Optional<Enumeration> enumeration = "e".equals(row.getString(12))
                ? Optional.of(new Enumeration(row.getString(14), texts(row, 13)))
                : Optional.empty();
        LogicalType type = enumeration
                .map(e -> LogicalType.varchar(e.longest()))
                .orElseGet(() -> PostgresTypes.logical(formatted));
        String defaultSql = row.getString(4);
        String identityKind = row.getString(5);
        boolean generated = !row.getString(6).isEmpty();
        long start = row.getLong(8);
        boolean counted =
                !row.wasNull() && (!identityKind.isEmpty() || defaultSql != null && defaultSql.startsWith("nextval("));
        ColumnDefinition.Builder column = ColumnDefinition.named(row.getString(1), type)
                .nullable(!row.getBoolean(3))
                .enumeration(enumeration)
                .collation(Optional.ofNullable(row.getString(11)).orElse(""))
                .sourceType(formatted)
                .comment(Optional.ofNullable(row.getString(7)).orElse(""));
        if (generated) {
            column.generation(Optional.of(new GenerationRule(
                    new SqlText(defaultSql, PostgresDialect.SYSTEM),
                    row.getString(6).equals("s"))));
        } else if (counted) {
            long increment = row.getLong(9);
            column.identity(Optional.of(new Identity(
                    identityKind.equals("a"), start, increment, next(row.getString(10), start, increment))));
        } else {
            column.defaultValue(PostgresDefaults.read(defaultSql, type));
        }
        return column.build();
    }

    /** The value that a sequence would give next; only the sequence itself knows whether its last one was given out. */
    long next(String sequence, long start, long increment) throws SQLException {
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
                        + ", k.confupdtype::text, k.confdeltype::text, pg_get_expr(k.conbin, k.conrelid), k.condeferrable, k.condeferred"
                        + " FROM pg_constraint k JOIN pg_class c ON c.oid = k.conrelid"
                        + " JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " LEFT JOIN pg_class f ON f.oid = k.confrelid"
                        + " LEFT JOIN pg_namespace fn ON fn.oid = f.relnamespace"
                        + " WHERE n.nspname = ? AND c.relname = ? AND k.conparentid = 0 AND" + UnusualRules.HOLDS
                        + "ORDER BY k.conname",
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
                        ACTIONS.get(row.getString(8)),
                        row.getBoolean(11)
                                ? Deferrability.INITIALLY_DEFERRED
                                : row.getBoolean(10) ? Deferrability.DEFERRABLE : Deferrability.NOT_DEFERRABLE));
            case "c" -> builder.check(new CheckConstraint(name, row.getString(9), PostgresDialect.SYSTEM));
            default -> {
                // exclusion and trigger constraints are left behind; NOT NULL stands at the column
            }
        }
    }

    private void indexes(TableDefinition.Builder builder, String... place) throws SQLException {
        query.each(
                "SELECT ic.relname, i.indisunique, pg_get_indexdef(i.indexrelid), am.amname,"
                        + " pg_get_expr(i.indpred, i.indrelid),"
                        + " (SELECT array_agg(ca.attname::text ORDER BY cn.i) FROM unnest(i.indkey::int2[])"
                        + " WITH ORDINALITY AS cn(n, i) LEFT JOIN pg_attribute ca ON ca.attrelid = i.indrelid"
                        + " AND ca.attnum = cn.n WHERE cn.i <= i.indnkeyatts),"
                        + " (SELECT array_agg(pg_get_indexdef(i.indexrelid, k, true) ORDER BY k)"
                        + " FROM generate_series(1, i.indnkeyatts) k),"
                        + " (SELECT array_agg(((o & 1) = 1)::text) FROM unnest(i.indoption::int2[]) o)"
                        + " FROM pg_index i JOIN pg_class ic ON ic.oid = i.indexrelid JOIN pg_am am ON am.oid = ic.relam"
                        + " JOIN pg_class c ON c.oid = i.indrelid JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE n.nspname = ? AND c.relname = ?"
                        + " AND NOT EXISTS (SELECT 1 FROM pg_constraint k WHERE k.conrelid = i.indrelid AND"
                        // the constraints of a table are found by an index, and those of an index by none
                        + " k.conindid = i.indexrelid AND k.contype IN"
                        + " ('p', 'u', 'x')) ORDER BY 1",
                row -> builder.index(index(row)),
                place);
    }

    /** An index; where its parts don't say all of it, with all that stands behind the table's name. */
    private IndexDefinition index(ResultSet row) throws SQLException {
        String[] columns = (String[]) row.getArray(6).getArray();
        List<String> texts = texts(row, 7);
        List<String> descending = texts(row, 8);
        List<IndexDefinition.Part> parts = new ArrayList<>();
        StringBuilder plain = new StringBuilder("USING btree (");
        for (int i = 0; i < columns.length; i++) {
            boolean down = descending.get(i).equals("true");
            parts.add(
                    columns[i] == null
                            ? IndexDefinition.Part.of(new SqlText(texts.get(i), PostgresDialect.SYSTEM), down)
                            : new IndexDefinition.Part(columns[i], down));
            plain.append(i == 0 ? "" : ", ").append(texts.get(i)).append(down ? " DESC" : "");
        }
        plain.append(')');
        String whole = row.getString(3);
        int using = whole.indexOf(" USING " + row.getString(4) + " (");
        String tail = whole.substring(using + 1);
        Optional<SqlText> predicate =
                Optional.ofNullable(row.getString(5)).map(p -> new SqlText(p, PostgresDialect.SYSTEM));
        boolean told =
                tail.equals(plain + predicate.map(p -> " WHERE " + p.sql()).orElse(""));
        boolean ordinary = row.getString(4).equals("btree");
        return new IndexDefinition(
                row.getString(1),
                row.getBoolean(2),
                ordinary ? parts : List.of(),
                predicate,
                told && predicate.isEmpty() && !Arrays.asList(columns).contains(null)
                        ? Optional.empty()
                        : Optional.of(new SqlText(tail, PostgresDialect.SYSTEM)));
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
