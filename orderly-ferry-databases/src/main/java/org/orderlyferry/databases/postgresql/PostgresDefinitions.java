package org.orderlyferry.databases.postgresql;

import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.databases.sql.DomainText;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** The definitions of one table, or of all: the same questions, with or without its name. */
final class PostgresDefinitions {

    private static final Map<String, ReferentialAction> ACTIONS = Map.of(
            "a", ReferentialAction.NO_ACTION,
            "r", ReferentialAction.RESTRICT,
            "c", ReferentialAction.CASCADE,
            "n", ReferentialAction.SET_NULL,
            "d", ReferentialAction.SET_DEFAULT);

    /** What is known of a table; its counters are asked when it is wanted, since each says itself how far it is. */
    private static final class Draft {
        private final TableDefinition.Builder table;
        private final List<ColumnDefinition> columns = new ArrayList<>();
        private final Map<String, String> counters = new HashMap<>();

        private Draft(TableName name) {
            this.table = TableDefinition.named(name).system(PostgresDialect.SYSTEM);
        }
    }

    private interface Row {
        void take(Draft of, ResultSet row) throws SQLException;
    }

    private final CatalogueQuery query;
    private final PostgresCatalogue catalogue;
    private final Map<TableName, Draft> drafts = new HashMap<>();
    private final Optional<TableName> only;

    private PostgresDefinitions(CatalogueQuery query, PostgresCatalogue catalogue, Optional<TableName> only) {
        this.query = query;
        this.catalogue = catalogue;
        this.only = only;
    }

    static PostgresDefinitions one(CatalogueQuery query, PostgresCatalogue catalogue, TableName table)
            throws SQLException {
        PostgresDefinitions one = new PostgresDefinitions(query, catalogue, Optional.of(table));
        one.drafts.put(table, new Draft(table));
        one.ask();
        return one;
    }

    static PostgresDefinitions all(CatalogueQuery query, PostgresCatalogue catalogue) throws SQLException {
        PostgresDefinitions all = new PostgresDefinitions(query, catalogue, Optional.empty());
        catalogue.tables().forEach(t -> all.drafts.put(t, new Draft(t)));
        all.ask();
        return all;
    }

    /** The definition of one of them. */
    Optional<TableDefinition> built(TableName table) throws SQLException {
        Draft draft = drafts.get(table);
        if (draft == null) {
            return Optional.empty();
        }
        List<ColumnDefinition> columns = new ArrayList<>();
        for (ColumnDefinition column : draft.columns) {
            String counter = draft.counters.get(column.name());
            columns.add(counter == null ? column : counted(column, counter));
        }
        return Optional.of(draft.table.columns(columns).build());
    }

    private ColumnDefinition counted(ColumnDefinition column, String sequence) throws SQLException {
        Identity identity = column.identity().orElseThrow();
        long next = next(query, sequence, identity.start(), identity.increment());
        return column.toBuilder()
                .identity(Optional.of(new Identity(identity.always(), identity.start(), identity.increment(), next)))
                .build();
    }

    /**
     * Asks for rows of tables.
     *
     * @param from with a condition, the table being c and its schema n
     */
    private void each(String select, String from, String order, Row taken) throws SQLException {
        query.each(
                "SELECT " + select + ", n.nspname AS of_schema, c.relname AS of_table" + from
                        + (only.isPresent()
                                ? " AND n.nspname = ? AND c.relname = ?"
                                : " AND c.relkind IN ('r', 'p') AND NOT c.relispartition AND"
                                        + PostgresCatalogue.NOT_SYSTEM)
                        + order,
                row -> {
                    Draft draft = drafts.get(
                            only.isPresent()
                                    ? only.get()
                                    : catalogue.name(row.getString("of_schema"), row.getString("of_table")));
                    if (draft != null) {
                        taken.take(draft, row);
                    }
                },
                only.isPresent() ? catalogue.place(only.get()) : new String[0]);
    }

    private void ask() throws SQLException {
        columns();
        each(
                "obj_description(c.oid, 'pg_class')",
                " FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace WHERE true",
                "",
                (draft, row) -> draft.table.comment(
                        Optional.ofNullable(row.getString(1)).orElse("")));
        constraints();
        indexes();
    }

    private void columns() throws SQLException {
        each(
                "a.attname, CASE WHEN t.typtype = 'd' THEN format_type(t.typbasetype, t.typtypmod)"
                        + " ELSE format_type(a.atttypid, a.atttypmod) END, a.attnotnull AND"
                        + UnusualRules.NOT_NULL_HOLDS
                        + "OR t.typnotnull,"
                        + " pg_get_expr(d.adbin, d.adrelid), a.attidentity::text, a.attgenerated::text,"
                        + " col_description(c.oid, a.attnum), COALESCE(s.seqstart, h.seqstart),"
                        + " COALESCE(s.seqincrement, h.seqincrement), COALESCE(s.seqrelid, h.seqrelid)::regclass::text,"
                        + " CASE WHEN a.attcollation <> t.typcollation AND a.attcollation <> 0 THEN a.attcollation::regcollation::text END, t.typtype::text,"
                        + " (SELECT array_agg(e.enumlabel::text ORDER BY e.enumsortorder) FROM pg_enum e"
                        + " WHERE e.enumtypid = t.oid), t.typname, (SELECT array_agg(pg_get_expr(k.conbin, 0))"
                        + " FROM pg_constraint k WHERE k.contypid = t.oid AND k.contype = 'c')",
                " FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid"
                        + " JOIN pg_namespace n ON n.oid = c.relnamespace JOIN pg_type t ON t.oid = a.atttypid"
                        + " LEFT JOIN pg_attrdef d ON d.adrelid = c.oid AND d.adnum = a.attnum"
                        + " LEFT JOIN (pg_depend o JOIN pg_sequence s ON s.seqrelid = o.objid)"
                        + " ON o.refobjid = c.oid AND o.refobjsubid = a.attnum AND o.deptype IN ('a', 'i')"
                        + " AND o.refclassid = 'pg_class'::regclass AND o.classid = 'pg_class'::regclass"
                        + " LEFT JOIN pg_sequence h ON s.seqrelid IS NULL AND h.seqrelid = " + ColumnCounters.OF_DEFAULT
                        + " WHERE a.attnum > 0 AND NOT a.attisdropped",
                " ORDER BY a.attnum",
                PostgresDefinitions::column);
    }

    private static void column(Draft draft, ResultSet row) throws SQLException {
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
        boolean counted = !row.wasNull() && (!identityKind.isEmpty() || ColumnCounters.isNext(defaultSql));
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
            column.identity(Optional.of(new Identity(identityKind.equals("a"), start, row.getLong(9), start)));
            draft.counters.put(row.getString(1), row.getString(10));
        } else {
            column.defaultValue(PostgresDefaults.read(defaultSql, type));
        }
        ColumnDefinition built = column.build();
        draft.columns.add(built);
        for (String check : texts(row, 15)) {
            draft.table.check(
                    new CheckConstraint("", DomainText.ofColumn(check, built.name()), PostgresDialect.SYSTEM));
        }
    }

    /** The value that a sequence would give next; only the sequence itself knows whether its last one was given out. */
    static long next(CatalogueQuery query, String sequence, long start, long increment) throws SQLException {
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

    private void constraints() throws SQLException {
        each(
                "k.conname, k.contype::text, " + columnsOf("k.conrelid", "k.conkey")
                        + ", fn.nspname, f.relname, "
                        + columnsOf("k.confrelid", "k.confkey")
                        + ", k.confupdtype::text, k.confdeltype::text, pg_get_expr(k.conbin, k.conrelid), k.condeferrable, k.condeferred",
                " FROM pg_constraint k JOIN pg_class c ON c.oid = k.conrelid"
                        + " JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " LEFT JOIN pg_class f ON f.oid = k.confrelid"
                        + " LEFT JOIN pg_namespace fn ON fn.oid = f.relnamespace"
                        + " WHERE k.conparentid = 0 AND" + UnusualRules.HOLDS,
                " ORDER BY k.conname",
                (draft, row) -> constraint(draft.table, row));
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
                        catalogue.name(row.getString(4), row.getString(5)),
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

    private void indexes() throws SQLException {
        each(
                "ic.relname, i.indisunique, pg_get_indexdef(i.indexrelid), am.amname,"
                        + " pg_get_expr(i.indpred, i.indrelid),"
                        + " (SELECT array_agg(ca.attname::text ORDER BY cn.i) FROM unnest(i.indkey::int2[])"
                        + " WITH ORDINALITY AS cn(n, i) LEFT JOIN pg_attribute ca ON ca.attrelid = i.indrelid"
                        + " AND ca.attnum = cn.n WHERE cn.i <= i.indnkeyatts),"
                        + " (SELECT array_agg(pg_get_indexdef(i.indexrelid, k, true) ORDER BY k)"
                        + " FROM generate_series(1, i.indnkeyatts) k),"
                        + " (SELECT array_agg(((o & 1) = 1)::text) FROM unnest(i.indoption::int2[]) o)",
                " FROM pg_index i JOIN pg_class ic ON ic.oid = i.indexrelid JOIN pg_am am ON am.oid = ic.relam"
                        + " JOIN pg_class c ON c.oid = i.indrelid JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE NOT EXISTS (SELECT 1 FROM pg_constraint k WHERE k.conrelid = i.indrelid AND"
                        // the constraints of a table are found by an index, and those of an index by none
                        + " k.conindid = i.indexrelid AND k.contype IN ('p', 'u', 'x'))",
                " ORDER BY 1",
                (draft, row) -> {
                    // somebody may be taking another table's away
                    if (row.getString(3) != null) {
                        draft.table.index(index(row));
                    }
                });
    }

    /** An index; where its parts don't say all of it, with all that stands behind the table's name. */
    private static IndexDefinition index(ResultSet row) throws SQLException {
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
                told && !Arrays.asList(columns).contains(null)
                        ? Optional.empty()
                        : Optional.of(new SqlText(tail, PostgresDialect.SYSTEM)));
    }

    private static List<String> texts(ResultSet row, int index) throws SQLException {
        Array array = row.getArray(index);
        return array == null ? List.of() : List.of((String[]) array.getArray());
    }
}
