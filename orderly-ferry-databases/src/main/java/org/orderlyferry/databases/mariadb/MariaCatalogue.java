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
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import org.orderlyferry.databases.dialect.Catalogue;
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
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;

/** MariaDB's own catalogue: the INFORMATION_SCHEMA of the database that the connection is in. */
final class MariaCatalogue implements Catalogue {

    static final String HERE = " TABLE_SCHEMA = DATABASE() AND TABLE_NAME = ? ";

    /** How texts are compared in the tables that are made here. */
    private static final String OWN_COLLATION = "utf8mb4_nopad_bin";

    /** To a table, and to a column. */
    private static final Set<Integer> DENIED = Set.of(1142, 1143);

    private final Connection connection;
    private final UnaryOperator<String> quote;
    private final CatalogueQuery query;

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
        String name = table.name();
        TableDefinition.Builder builder = TableDefinition.named(table).system(MariaDialect.SYSTEM);
        long[] next = {1};
        query.each(
                "SELECT TABLE_COMMENT, AUTO_INCREMENT FROM information_schema.TABLES WHERE" + HERE,
                row -> {
                    builder.comment(Optional.ofNullable(row.getString(1)).orElse(""));
                    next[0] = Math.max(1, row.getLong(2));
                },
                name);
        Set<String> json = new HashSet<>();
        query.each(
                "SELECT CONSTRAINT_NAME, CHECK_CLAUSE FROM information_schema.CHECK_CONSTRAINTS"
                        + " WHERE CONSTRAINT_SCHEMA = DATABASE() AND TABLE_NAME = ? ORDER BY 1",
                row -> {
                    String constraint = row.getString(1);
                    String clause = plain(row.getString(2));
                    if (clause.equals("json_valid(`" + constraint.replace("`", "``") + "`)")) {
                        json.add(constraint);
                    } else {
                        boolean madeUp = constraint.matches("CONSTRAINT_\\d+");
                        builder.check(new CheckConstraint(madeUp ? "" : constraint, clause, MariaDialect.SYSTEM));
                    }
                },
                name);
        Set<String> numbers =
                connection.isReadOnly() ? TruthColumns.of(connection).numbers(connection, table, quote) : Set.of();
        query.each(
                "SELECT COLUMN_NAME, COLUMN_TYPE, IS_NULLABLE, COLUMN_DEFAULT, EXTRA, GENERATION_EXPRESSION,"
                        + " COLUMN_COMMENT, COLLATION_NAME FROM information_schema.COLUMNS WHERE" + HERE
                        + "ORDER BY ORDINAL_POSITION",
                row -> builder.column(column(row, json, numbers, next[0])),
                name);
        keys(builder, name);
        Set<String> references = foreignKeys(builder, name);
        indexes(builder, name, references);
        return builder.build();
    }

    private static ColumnDefinition column(ResultSet row, Set<String> json, Set<String> numbers, long next)
            throws SQLException {
        String name = row.getString(1);
        String columnType = plain(row.getString(2));
        Optional<Enumeration> enumeration = columnType.startsWith("enum(")
                ? Optional.of(new Enumeration("", values(columnType)))
                : Optional.empty();
        LogicalType type = enumeration
                .map(e -> LogicalType.varchar(e.longest()))
                .orElseGet(() -> numbers.contains(name)
                        ? LogicalType.SMALLINT
                        : MariaTypes.logical(columnType, json.contains(name)));
        boolean counted = row.getString(5).contains("auto_increment");
        Optional<String> generated =
                Optional.ofNullable(row.getString(6)).filter(s -> !s.isEmpty()).map(MariaCatalogue::plain);
        String collation = row.getString(8);
        ColumnDefinition.Builder column = ColumnDefinition.named(name, type)
                .nullable(row.getString(3).equals("YES"))
                .enumeration(enumeration)
                .collation(
                        collation == null || collation.equals(OWN_COLLATION) || type.name() == TypeName.JSON
                                ? ""
                                : collation)
                .sourceType(type.name() == TypeName.JSON ? "json" : columnType)
                .comment(row.getString(7));
        if (generated.isPresent()) {
            boolean stored = row.getString(5).contains("STORED");
            column.generation(
                    Optional.of(new GenerationRule(new SqlText(generated.get(), MariaDialect.SYSTEM), stored)));
        } else if (counted) {
            column.identity(Optional.of(new Identity(false, 1, 1, next)));
        } else {
            column.defaultValue(MariaDefaults.read(plain(row.getString(4)), type));
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

    private void keys(TableDefinition.Builder builder, String table) throws SQLException {
        Map<String, List<String>> keys = new LinkedHashMap<>();
        // a versioned table's keys have the time until which a record holds behind what makes it one
        query.each(
                "SELECT INDEX_NAME, COLUMN_NAME FROM information_schema.STATISTICS WHERE" + HERE
                        + "AND NON_UNIQUE = 0 AND COLUMN_NAME NOT IN (SELECT COLUMN_NAME FROM information_schema.COLUMNS WHERE"
                        + HERE + "AND GENERATION_EXPRESSION = 'ROW END') ORDER BY INDEX_NAME, SEQ_IN_INDEX",
                row -> keys.computeIfAbsent(row.getString(1), n -> new ArrayList<>())
                        .add(row.getString(2)),
                table,
                table);
        keys.forEach((name, columns) -> {
            if (name.equals("PRIMARY")) {
                builder.primaryKey(new Key("", columns));
            } else {
                builder.unique(new Key(name, columns));
            }
        });
    }

    /** Adds the references; returns their names, which the indexes that they bring along have too. */
    private Set<String> foreignKeys(TableDefinition.Builder builder, String table) throws SQLException {
        Map<String, ReferentialAction[]> actions = new HashMap<>();
        // asked for apart: the two together are held against each other for all tables of the database
        query.each(
                "SELECT CONSTRAINT_NAME, UPDATE_RULE, DELETE_RULE FROM information_schema.REFERENTIAL_CONSTRAINTS"
                        + " WHERE CONSTRAINT_SCHEMA = DATABASE() AND TABLE_NAME = ?",
                row -> actions.put(row.getString(1), new ReferentialAction[] {
                    ReferentialAction.ofSql(row.getString(2)), ReferentialAction.ofSql(row.getString(3))
                }),
                table);
        Map<String, ForeignKey> keys = new LinkedHashMap<>();
        query.each(
                "SELECT CONSTRAINT_NAME, COLUMN_NAME, REFERENCED_TABLE_NAME, REFERENCED_COLUMN_NAME,"
                        + " IF(REFERENCED_TABLE_SCHEMA = DATABASE(), '', REFERENCED_TABLE_SCHEMA)"
                        + " FROM information_schema.KEY_COLUMN_USAGE WHERE" + HERE
                        + "AND REFERENCED_TABLE_NAME IS NOT NULL ORDER BY CONSTRAINT_NAME, ORDINAL_POSITION",
                row -> {
                    ReferentialAction[] acts = actions.get(row.getString(1));
                    if (acts == null) {
                        return;
                    }
                    ForeignKey part = new ForeignKey(
                            row.getString(1),
                            List.of(row.getString(2)),
                            // one of another database isn't the one that is called the same here
                            new TableName(row.getString(5), row.getString(3)),
                            List.of(row.getString(4)),
                            acts[0],
                            acts[1]);
                    keys.merge(part.name(), part, ForeignKey::and);
                },
                table);
        keys.values().forEach(builder::foreignKey);
        return keys.keySet();
    }

    /** Indexes that no key implies; a prefix of a column is a part of its own, and a FULLTEXT index only MariaDB's. */
    private void indexes(TableDefinition.Builder builder, String table, Set<String> references) throws SQLException {
        Map<String, List<IndexDefinition.Part>> indexes = new LinkedHashMap<>();
        query.each(
                "SELECT INDEX_NAME, COLUMN_NAME, COLLATION, SUB_PART FROM information_schema.STATISTICS WHERE" + HERE
                        + "AND NON_UNIQUE = 1 AND INDEX_TYPE = 'BTREE' ORDER BY INDEX_NAME, SEQ_IN_INDEX",
                row -> indexes.computeIfAbsent(row.getString(1), n -> new ArrayList<>())
                        .add(new IndexDefinition.Part(
                                row.getString(2), Optional.empty(), "D".equals(row.getString(3)), row.getInt(4))),
                table);
        indexes.keySet().removeAll(references);
        indexes.forEach((name, parts) -> builder.index(new IndexDefinition(name, false, parts)));
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
