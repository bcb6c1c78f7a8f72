package org.orderlyferry.databases.mariadb;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.databases.sql.PlainStrings;
import org.orderlyferry.databases.sql.SqlToken;
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
import org.orderlyferry.model.TypeName;

/** The definitions of one table, or of all: the same questions, with or without its name. */
final class MariaDefinitions {

    /** How texts are compared in the tables that are made here. */
    static final String OWN_COLLATION = "utf8mb4_nopad_bin";

    private static final String TRUTH = "tinyint(1)";

    /** A column as the catalogue has it. */
    private record ColumnText(
            String name,
            String type,
            String nullable,
            String defaultValue,
            String extra,
            String generation,
            String comment,
            String collation) {}

    /** The actions of a reference. */
    private record Actions(ReferentialAction update, ReferentialAction delete) {}

    /** What is known of a table; whether its truth values are such is asked when it is wanted. */
    private static final class Draft {
        private final List<ColumnText> columns = new ArrayList<>();
        private final List<CheckConstraint> checks = new ArrayList<>();
        private final Set<String> json = new HashSet<>();
        /** A versioned table's keys have the time until which a record holds behind what makes it one. */
        private final Set<String> rowEnds = new HashSet<>();

        private final Map<String, List<IndexDefinition.Part>> keys = new LinkedHashMap<>();

        private final Map<String, Actions> actions = new HashMap<>();
        private final Map<String, ForeignKey> references = new LinkedHashMap<>();
        private final Map<String, List<IndexDefinition.Part>> indexes = new LinkedHashMap<>();
        private String comment = "";
        private long next = 1;
    }

    private interface Row {
        void take(Draft of, ResultSet row) throws SQLException;
    }

    private final Connection connection;
    private final UnaryOperator<String> quote;
    private final CatalogueQuery query;
    private final Map<String, Draft> drafts = new LinkedHashMap<>();
    private final Optional<TableName> only;
    /** Tables of which it is being found out whether they refer to numbers. */
    private final Set<TableName> asked = new HashSet<>();

    private boolean small;

    private MariaDefinitions(Connection connection, UnaryOperator<String> quote, Optional<TableName> only) {
        this.connection = connection;
        this.quote = quote;
        this.query = new CatalogueQuery(connection);
        this.only = only;
    }

    static MariaDefinitions one(Connection connection, UnaryOperator<String> quote, TableName table)
            throws SQLException {
        MariaDefinitions one = new MariaDefinitions(connection, quote, Optional.of(table));
        one.drafts.put(table.name(), new Draft());
        one.ask();
        return one;
    }

    static MariaDefinitions all(Connection connection, UnaryOperator<String> quote, List<TableName> tables)
            throws SQLException {
        MariaDefinitions all = new MariaDefinitions(connection, quote, Optional.empty());
        // names that a server keeps as they were given, and finds by any letters, stand in small ones in some places
        all.query.each("SELECT @@lower_case_table_names = 2", row -> all.small = row.getBoolean(1));
        tables.forEach(t -> all.drafts.put(all.key(t.name()), new Draft()));
        all.ask();
        return all;
    }

    private String key(String table) {
        return small ? table.toLowerCase(Locale.ROOT) : table;
    }

    /** The definition of one of them. */
    Optional<TableDefinition> built(TableName table) throws SQLException {
        Draft draft = drafts.get(key(table.name()));
        if (draft == null) {
            return Optional.empty();
        }
        Set<String> numbers = numbers(table, draft);
        TableDefinition.Builder builder = TableDefinition.named(table)
                .system(MariaDialect.SYSTEM)
                .comment(draft.comment)
                .columns(draft.columns.stream()
                        .map(c -> column(c, draft, numbers))
                        .toList())
                .checks(draft.checks);
        draft.keys.forEach((name, parts) -> {
            List<IndexDefinition.Part> its = parts.stream()
                    .filter(p -> !draft.rowEnds.contains(p.column()))
                    .toList();
            List<String> columns =
                    its.stream().map(IndexDefinition.Part::column).toList();
            if (its.isEmpty()) {
                return;
            }
            if (name.equals("PRIMARY")) {
                builder.primaryKey(new Key("", columns));
            } else if (its.stream().anyMatch(p -> p.descending() || p.prefix() > 0)) {
                // a key says neither in which order nor by which beginnings
                builder.index(new IndexDefinition(name, true, its));
            } else {
                builder.unique(new Key(name, columns));
            }
        });
        draft.references.values().forEach(builder::foreignKey);
        draft.indexes.forEach((name, parts) -> {
            // a reference brings an index of its name along
            if (!draft.references.containsKey(name)) {
                builder.index(new IndexDefinition(name, false, parts));
            }
        });
        return Optional.of(builder.build());
    }

    private Set<String> numbers(TableName table, Draft draft) throws SQLException {
        List<String> truths = draft.columns.stream()
                .filter(c -> c.type().toLowerCase(Locale.ROOT).startsWith(TRUTH))
                .map(ColumnText::name)
                .toList();
        if (truths.isEmpty()) {
            return Set.of();
        }
        Set<String> counting = draft.columns.stream()
                .filter(c -> truths.contains(c.name()) && c.extra().contains("auto_increment"))
                .map(ColumnText::name)
                .collect(Collectors.toSet());
        counting.addAll(referring(table, draft, truths));
        return connection.isReadOnly()
                ? TruthColumns.of(connection).numbers(connection, table, truths, counting, quote)
                : counting;
    }

    /** Those that refer to numbers. */
    private Set<String> referring(TableName table, Draft draft, List<String> truths) throws SQLException {
        Set<String> numbers = new HashSet<>();
        for (ForeignKey key : draft.references.values()) {
            for (int i = 0; i < key.columns().size(); i++) {
                String column = key.columns().get(i);
                if (truths.contains(column)
                        && isNumber(table, key.target(), key.targetColumns().get(i))) {
                    numbers.add(column);
                }
            }
        }
        return numbers;
    }

    /** Of another database's, only its declaration would be known; so what refers there is taken for a number. */
    private boolean isNumber(TableName from, TableName target, String column) throws SQLException {
        if (!target.schema().isEmpty()) {
            return true;
        }
        if (target.equals(from) || !asked.add(from)) {
            // around a circle of references all are what their values are
            return false;
        }
        try {
            MariaDefinitions others = drafts.containsKey(key(target.name())) ? this : one(connection, quote, target);
            others.asked.addAll(asked);
            return others.built(target)
                    .flatMap(t -> t.column(column))
                    .filter(c -> c.type().name() != TypeName.BOOLEAN)
                    .isPresent();
        } finally {
            asked.remove(from);
        }
    }

    /**
     * Asks for rows of tables.
     *
     * @param from with a condition; the table's name is the last column
     */
    private void each(String select, String from, String order, int last, Row taken) throws SQLException {
        query.each(
                "SELECT " + select + ", TABLE_NAME FROM information_schema." + from
                        + (only.isPresent() ? " AND TABLE_NAME = ?" : "") + order,
                row -> {
                    Draft draft = drafts.get(only.isPresent() ? only.get().name() : key(row.getString(last)));
                    if (draft != null) {
                        taken.take(draft, row);
                    }
                },
                only.map(t -> new String[] {t.name()}).orElse(new String[0]));
    }

    private void ask() throws SQLException {
        each("TABLE_COMMENT, AUTO_INCREMENT", "TABLES WHERE TABLE_SCHEMA = DATABASE()", "", 3, (draft, row) -> {
            draft.comment = Optional.ofNullable(row.getString(1)).orElse("");
            draft.next = Math.max(1, row.getLong(2));
        });
        each(
                "CONSTRAINT_NAME, CHECK_CLAUSE",
                "CHECK_CONSTRAINTS WHERE CONSTRAINT_SCHEMA = DATABASE()",
                " ORDER BY 1",
                3,
                MariaDefinitions::check);
        each(
                "COLUMN_NAME, COLUMN_TYPE, IS_NULLABLE, COLUMN_DEFAULT, EXTRA, GENERATION_EXPRESSION,"
                        + " COLUMN_COMMENT, COLLATION_NAME",
                "COLUMNS WHERE TABLE_SCHEMA = DATABASE()",
                " ORDER BY ORDINAL_POSITION",
                9,
                (draft, row) -> {
                    draft.columns.add(new ColumnText(
                            row.getString(1),
                            row.getString(2),
                            row.getString(3),
                            row.getString(4),
                            row.getString(5),
                            row.getString(6),
                            row.getString(7),
                            row.getString(8)));
                    if ("ROW END".equals(row.getString(6))) {
                        draft.rowEnds.add(row.getString(1));
                    }
                });
        each(
                "INDEX_NAME, COLUMN_NAME, COLLATION, SUB_PART, NON_UNIQUE, INDEX_TYPE",
                "STATISTICS WHERE TABLE_SCHEMA = DATABASE()",
                " ORDER BY INDEX_NAME, SEQ_IN_INDEX",
                7,
                MariaDefinitions::part);
        // asked for apart: the two together are held against each other for all tables of the database
        each(
                "CONSTRAINT_NAME, UPDATE_RULE, DELETE_RULE",
                "REFERENTIAL_CONSTRAINTS WHERE CONSTRAINT_SCHEMA = DATABASE()",
                "",
                4,
                (draft, row) -> draft.actions.put(
                        row.getString(1),
                        new Actions(
                                ReferentialAction.ofSql(row.getString(2)), ReferentialAction.ofSql(row.getString(3)))));
        each(
                "CONSTRAINT_NAME, COLUMN_NAME, REFERENCED_TABLE_NAME, REFERENCED_COLUMN_NAME,"
                        + " IF(REFERENCED_TABLE_SCHEMA = DATABASE(), '', REFERENCED_TABLE_SCHEMA)",
                "KEY_COLUMN_USAGE WHERE TABLE_SCHEMA = DATABASE() AND REFERENCED_TABLE_NAME IS NOT NULL",
                " ORDER BY CONSTRAINT_NAME, ORDINAL_POSITION",
                6,
                MariaDefinitions::reference);
    }

    private static void check(Draft draft, ResultSet row) throws SQLException {
        String constraint = row.getString(1);
        String clause = plain(row.getString(2));
        if (clause.equals("json_valid(`" + constraint.replace("`", "``") + "`)")) {
            draft.json.add(constraint);
        } else {
            boolean madeUp = constraint.matches("CONSTRAINT_\\d+");
            draft.checks.add(new CheckConstraint(madeUp ? "" : constraint, clause, MariaDialect.SYSTEM));
        }
    }

    /** Of a key, or of an index that no key implies; a prefix of a column is a part of its own, and a FULLTEXT index only MariaDB's. */
    private static void part(Draft draft, ResultSet row) throws SQLException {
        String index = row.getString(1);
        IndexDefinition.Part part = new IndexDefinition.Part(
                row.getString(2), Optional.empty(), "D".equals(row.getString(3)), row.getInt(4));
        if (row.getInt(5) == 0) {
            draft.keys.computeIfAbsent(index, n -> new ArrayList<>()).add(part);
        } else if (row.getString(6).equals("BTREE")) {
            draft.indexes.computeIfAbsent(index, n -> new ArrayList<>()).add(part);
        }
    }

    private static void reference(Draft draft, ResultSet row) throws SQLException {
        Actions actions = draft.actions.get(row.getString(1));
        if (actions == null) {
            return;
        }
        ForeignKey part = new ForeignKey(
                row.getString(1),
                List.of(row.getString(2)),
                // one of another database isn't the one that is called the same here
                new TableName(row.getString(5), row.getString(3)),
                List.of(row.getString(4)),
                actions.update(),
                actions.delete());
        draft.references.merge(part.name(), part, ForeignKey::and);
    }

    private static ColumnDefinition column(ColumnText text, Draft draft, Set<String> numbers) {
        String name = text.name();
        String columnType = plain(text.type());
        Optional<Enumeration> enumeration = columnType.startsWith("enum(")
                ? Optional.of(new Enumeration("", values(columnType)))
                : Optional.empty();
        LogicalType type = enumeration
                .map(e -> LogicalType.varchar(e.longest()))
                .orElseGet(() -> numbers.contains(name)
                        ? LogicalType.SMALLINT
                        : MariaTypes.logical(columnType, draft.json.contains(name)));
        boolean counted = text.extra().contains("auto_increment");
        Optional<String> generated =
                Optional.ofNullable(text.generation()).filter(s -> !s.isEmpty()).map(MariaDefinitions::plain);
        String collation = text.collation();
        ColumnDefinition.Builder column = ColumnDefinition.named(name, type)
                .nullable(text.nullable().equals("YES"))
                .enumeration(enumeration)
                .collation(
                        collation == null || collation.equals(OWN_COLLATION) || type.name() == TypeName.JSON
                                ? ""
                                : CharacterSets.full(collation))
                .sourceType(type.name() == TypeName.JSON ? "json" : columnType)
                .comment(text.comment());
        if (generated.isPresent()) {
            boolean stored = text.extra().contains("STORED");
            column.generation(
                    Optional.of(new GenerationRule(new SqlText(generated.get(), MariaDialect.SYSTEM), stored)));
        } else if (counted) {
            column.identity(Optional.of(new Identity(false, 1, 1, draft.next)));
        } else {
            column.defaultValue(MariaDefaults.read(plain(text.defaultValue()), type));
        }
        return column.build();
    }

    /** The catalogue writes strings with backslashes, whatever the session and whoever made the table takes them for. */
    private static String plain(String sql) {
        return sql == null ? null : PlainStrings.of(sql, true);
    }

    /** The values of {@code enum('a','b')}. */
    private static List<String> values(String columnType) {
        return SqlToken.of(columnType).stream()
                .filter(t -> t.kind() == SqlToken.Kind.STRING)
                .map(SqlToken::text)
                .toList();
    }
}
