package org.orderlyferry.databases.h2;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
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
final class H2Definitions {

    /** What is known of a table so far. */
    private static final class Draft {
        private final TableDefinition.Builder table;
        private final Map<String, List<String>> enumerations = new HashMap<>();
        private final Map<String, List<String>> primary = new LinkedHashMap<>();
        private final Map<String, List<String>> unique = new LinkedHashMap<>();
        private final Map<String, IndexDefinition> indexes = new LinkedHashMap<>();

        private Draft(TableName name) {
            this.table = TableDefinition.named(name).system(H2Dialect.SYSTEM);
        }

        private TableDefinition built() {
            primary.forEach((name, columns) -> table.primaryKey(new Key(given(name), columns)));
            unique.forEach((name, columns) -> table.unique(new Key(given(name), columns)));
            indexes.values().forEach(table::index);
            return table.build();
        }
    }

    /** A key, or the columns of a reference, by their places in it. */
    private record Usage(TableName table, Map<Integer, String> columns, Map<Integer, Integer> referred) {}

    private interface Row {
        void take(Draft of, ResultSet row) throws SQLException;
    }

    private final CatalogueQuery query;
    private final H2Names names;
    private final Map<TableName, Draft> drafts = new LinkedHashMap<>();
    private Optional<TableName> only = Optional.empty();

    H2Definitions(CatalogueQuery query, H2Names names) {
        this.query = query;
        this.names = names;
    }

    TableDefinition one(TableName table) throws SQLException {
        only = Optional.of(table);
        drafts.put(table, new Draft(table));
        ask();
        return drafts.get(table).built();
    }

    Map<TableName, TableDefinition> all() throws SQLException {
        query.each(
                "SELECT TABLE_SCHEMA, TABLE_NAME FROM INFORMATION_SCHEMA.TABLES WHERE TABLE_TYPE = 'BASE TABLE' AND"
                        + " TABLE_SCHEMA <> 'INFORMATION_SCHEMA'",
                row -> {
                    TableName name = names.name(row.getString(1), row.getString(2));
                    drafts.put(name, new Draft(name));
                });
        ask();
        Map<TableName, TableDefinition> all = new HashMap<>();
        drafts.forEach((name, draft) -> all.put(name, draft.built()));
        return all;
    }

    /** A constraint's name where a person gave one; H2's own are made up anew by each database. */
    private static String given(String name) {
        return name.matches("CONSTRAINT_[0-9A-F]+(_\\d+)?") ? "" : name;
    }

    /**
     * Asks for rows that begin with a table's schema and name.
     *
     * @param of the table of the catalogue that is asked, with its columns of those names; there may be others joined to it
     */
    private void each(String select, String of, String order, Row taken) throws SQLException {
        String[] place = only.map(t -> new String[] {names.schema(t), t.name()}).orElse(new String[0]);
        query.each(
                select
                        + (only.isEmpty() ? "" : " AND " + of + ".TABLE_SCHEMA = ? AND " + of + ".TABLE_NAME = ?")
                        + order,
                row -> {
                    Draft draft = drafts.get(names.name(row.getString(1), row.getString(2)));
                    if (draft != null) {
                        taken.take(draft, row);
                    }
                },
                place);
    }

    private void ask() throws SQLException {
        // their table is called otherwise than elsewhere
        each(
                "SELECT TABLE_SCHEMA, TABLE_NAME, ENUM_IDENTIFIER, VALUE_NAME FROM (SELECT OBJECT_SCHEMA TABLE_SCHEMA,"
                        + " OBJECT_NAME TABLE_NAME, ENUM_IDENTIFIER, VALUE_NAME, VALUE_ORDINAL FROM"
                        + " INFORMATION_SCHEMA.ENUM_VALUES WHERE OBJECT_TYPE = 'TABLE') e WHERE 1 = 1",
                "e",
                " ORDER BY VALUE_ORDINAL",
                (draft, row) -> draft.enumerations
                        .computeIfAbsent(row.getString(3), i -> new ArrayList<>())
                        .add(row.getString(4)));
        each(
                "SELECT TABLE_SCHEMA, TABLE_NAME, COLUMN_NAME, DATA_TYPE, CHARACTER_MAXIMUM_LENGTH, NUMERIC_PRECISION,"
                        + " NUMERIC_SCALE, DATETIME_PRECISION, IS_NULLABLE, COLUMN_DEFAULT, IS_IDENTITY,"
                        + " IDENTITY_GENERATION, IDENTITY_START, IDENTITY_INCREMENT, IDENTITY_BASE, IS_GENERATED,"
                        + " GENERATION_EXPRESSION, REMARKS, INTERVAL_TYPE, DTD_IDENTIFIER, INTERVAL_PRECISION"
                        + " FROM INFORMATION_SCHEMA.COLUMNS c WHERE 1 = 1",
                "c",
                " ORDER BY ORDINAL_POSITION",
                (draft, row) -> draft.table.column(column(row, draft.enumerations)));
        each(
                "SELECT TABLE_SCHEMA, TABLE_NAME, REMARKS FROM INFORMATION_SCHEMA.TABLES t WHERE 1 = 1",
                "t",
                "",
                (draft, row) -> draft.table.comment(
                        Optional.ofNullable(row.getString(3)).orElse("")));
        constraints();
        each(
                "SELECT i.TABLE_SCHEMA, i.TABLE_NAME, i.INDEX_NAME, i.INDEX_TYPE_NAME, c.COLUMN_NAME,"
                        + " c.ORDERING_SPECIFICATION FROM INFORMATION_SCHEMA.INDEXES i"
                        + " JOIN INFORMATION_SCHEMA.INDEX_COLUMNS c ON c.INDEX_SCHEMA = i.INDEX_SCHEMA"
                        + " AND c.INDEX_NAME = i.INDEX_NAME AND c.TABLE_NAME = i.TABLE_NAME WHERE i.IS_GENERATED = FALSE",
                "i",
                " ORDER BY i.INDEX_NAME, c.ORDINAL_POSITION",
                (draft, row) -> index(draft.indexes, row));
    }

    private static void index(Map<String, IndexDefinition> indexes, ResultSet row) throws SQLException {
        IndexDefinition.Part part = new IndexDefinition.Part(row.getString(5), "DESC".equals(row.getString(6)));
        IndexDefinition index =
                new IndexDefinition(row.getString(3), row.getString(4).startsWith("UNIQUE"), List.of(part));
        indexes.merge(index.name(), index, (a, b) -> {
            List<IndexDefinition.Part> parts = new ArrayList<>(a.parts());
            parts.addAll(b.parts());
            return new IndexDefinition(a.name(), a.unique(), parts);
        });
    }

    /**
     * Keys, references and checks, which are put together here: a join of the catalogue's tables would go through all constraints
     * of the database for each of them.
     */
    private void constraints() throws SQLException {
        Map<List<String>, Usage> usages = new HashMap<>();
        query.each(
                "SELECT CONSTRAINT_SCHEMA, CONSTRAINT_NAME, TABLE_SCHEMA, TABLE_NAME, COLUMN_NAME, ORDINAL_POSITION,"
                        + " POSITION_IN_UNIQUE_CONSTRAINT FROM INFORMATION_SCHEMA.KEY_COLUMN_USAGE"
                        + " ORDER BY ORDINAL_POSITION",
                row -> {
                    TableName table = names.name(row.getString(3), row.getString(4));
                    Usage usage = usages.computeIfAbsent(
                            List.of(row.getString(1), row.getString(2)),
                            c -> new Usage(table, new LinkedHashMap<>(), new LinkedHashMap<>()));
                    usage.columns.put(row.getInt(6), row.getString(5));
                    usage.referred.put(row.getInt(6), row.getInt(7));
                });
        Map<List<String>, String> clauses = new HashMap<>();
        query.each(
                "SELECT CONSTRAINT_SCHEMA, CONSTRAINT_NAME, CHECK_CLAUSE FROM INFORMATION_SCHEMA.CHECK_CONSTRAINTS",
                row -> clauses.put(List.of(row.getString(1), row.getString(2)), row.getString(3)));
        each(
                "SELECT TABLE_SCHEMA, TABLE_NAME, CONSTRAINT_SCHEMA, CONSTRAINT_NAME FROM"
                        + " INFORMATION_SCHEMA.TABLE_CONSTRAINTS c WHERE CONSTRAINT_TYPE = 'CHECK'",
                "c",
                " ORDER BY CONSTRAINT_NAME",
                (draft, row) -> draft.table.check(new CheckConstraint(
                        given(row.getString(4)),
                        clauses.get(List.of(row.getString(3), row.getString(4))),
                        H2Dialect.SYSTEM)));
        each(
                "SELECT TABLE_SCHEMA, TABLE_NAME, CONSTRAINT_SCHEMA, CONSTRAINT_NAME, CONSTRAINT_TYPE FROM"
                        + " INFORMATION_SCHEMA.TABLE_CONSTRAINTS c WHERE CONSTRAINT_TYPE IN ('PRIMARY KEY', 'UNIQUE')",
                "c",
                " ORDER BY CONSTRAINT_NAME",
                (draft, row) -> (row.getString(5).startsWith("PRIMARY") ? draft.primary : draft.unique)
                        .put(
                                row.getString(4),
                                List.copyOf(usages.get(List.of(row.getString(3), row.getString(4)))
                                        .columns
                                        .values())));
        query.each(
                "SELECT CONSTRAINT_SCHEMA, CONSTRAINT_NAME, UNIQUE_CONSTRAINT_SCHEMA, UNIQUE_CONSTRAINT_NAME,"
                        + " UPDATE_RULE, DELETE_RULE FROM INFORMATION_SCHEMA.REFERENTIAL_CONSTRAINTS"
                        + " ORDER BY CONSTRAINT_NAME",
                row -> {
                    Usage from = usages.get(List.of(row.getString(1), row.getString(2)));
                    Usage to = usages.get(List.of(row.getString(3), row.getString(4)));
                    Draft draft = from == null || to == null ? null : drafts.get(from.table);
                    if (draft != null) {
                        draft.table.foreignKey(new ForeignKey(
                                given(row.getString(2)),
                                List.copyOf(from.columns.values()),
                                to.table,
                                from.referred.values().stream()
                                        .map(to.columns::get)
                                        .toList(),
                                ReferentialAction.ofSql(row.getString(5)),
                                ReferentialAction.ofSql(row.getString(6))));
                    }
                });
    }

    private static ColumnDefinition column(ResultSet row, Map<String, List<String>> enumerations) throws SQLException {
        String dataType = row.getString(4);
        long length = row.getLong(5);
        long size = length != 0 ? length : row.getLong(6);
        int scale = row.getInt(7);
        int fraction = row.getInt(8);
        Optional<Enumeration> enumeration = dataType.equals("ENUM")
                ? Optional.of(new Enumeration("", enumerations.get(row.getString(20))))
                : Optional.empty();
        LogicalType type = enumeration
                .map(e -> LogicalType.varchar(e.longest()))
                .orElseGet(() -> H2Types.logical(dataType, size, scale, fraction));
        ColumnDefinition.Builder column = ColumnDefinition.named(row.getString(3), type)
                .nullable("YES".equals(row.getString(9)))
                .enumeration(enumeration)
                .sourceType(enumeration.isPresent() ? H2ColumnSql.type(enumeration.get()) : own(row, dataType, type))
                .comment(Optional.ofNullable(row.getString(18)).orElse(""));
        if ("ALWAYS".equals(row.getString(16))) {
            column.generation(Optional.of(new GenerationRule(new SqlText(row.getString(17), H2Dialect.SYSTEM), true)));
        } else if ("YES".equals(row.getString(11))) {
            column.identity(Optional.of(new Identity(
                    "ALWAYS".equals(row.getString(12)), row.getLong(13), row.getLong(14), row.getLong(15))));
        } else {
            column.defaultValue(H2Defaults.read(row.getString(10), type));
        }
        return column.build();
    }

    /** {@code DAY TO SECOND} as {@code DAY(5) TO SECOND(9)}: without its digits it would hold two days' digits, and six of a second's. */
    private static String interval(String fields, int digits, int fraction) {
        if (fields.equals("SECOND")) {
            return "SECOND(" + digits + ", " + fraction + ")";
        }
        String[] both = fields.split(" TO ", 2);
        String last = both.length == 1 ? "" : " TO " + both[1];
        return both[0] + "(" + digits + ")" + (last.endsWith("SECOND") ? last + "(" + fraction + ")" : last);
    }

    /** The type as CREATE TABLE takes it; the catalogue has it in pieces. */
    private static String own(ResultSet row, String dataType, LogicalType type) throws SQLException {
        String intervalType = row.getString(19);
        return switch (dataType) {
            case "INTERVAL" -> dataType + " " + interval(intervalType, row.getInt(21), row.getInt(8));
            case "DECFLOAT" -> dataType + "(" + row.getLong(6) + ")";
            case "VARCHAR_IGNORECASE" -> dataType + "(" + row.getLong(5) + ")";
            case "TIME WITH TIME ZONE" -> "TIME(" + row.getInt(8) + ") WITH TIME ZONE";
            case "TINYINT", "GEOMETRY", "JAVA_OBJECT", "ARRAY", "ROW" -> dataType;
            default -> H2Types.sql(type);
        };
    }
}
