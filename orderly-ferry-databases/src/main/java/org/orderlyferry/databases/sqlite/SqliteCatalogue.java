package org.orderlyferry.databases.sqlite;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * SQLite's catalogue: its pragmas as table-valued functions, and, for what they don't tell, the text of CREATE TABLE
 * that SQLite keeps.
 */
final class SqliteCatalogue implements Catalogue {

    /** What the pragma says of a generated column. */
    private static final int COMPUTED = 2;

    private static final int STORED = 3;

    /** Of a table l: whether it, or a column of it, is called by an empty text, which SQLite alone lets them be. */
    static final String NAMELESS =
            "(l.name = '' OR EXISTS (SELECT 1 FROM pragma_table_xinfo(l.name) c WHERE c.name = ''))";

    private final Connection connection;
    private final CatalogueQuery query;
    private KeptTexts texts;

    SqliteCatalogue(Connection connection) {
        this.connection = connection;
        this.query = new CatalogueQuery(connection);
    }

    @Override
    public List<TableName> tables() throws SQLException {
        List<TableName> tables = new ArrayList<>();
        // 'virtual' tables have no rows of their own, 'shadow' tables belong to them
        query.each(
                "SELECT name FROM pragma_table_list l WHERE schema = 'main' AND type = 'table'"
                        + " AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' AND NOT " + NAMELESS + " ORDER BY name",
                row -> tables.add(TableName.of(row.getString(1))));
        return tables;
    }

    @Override
    public UnaryOperator<TableName> held() throws SQLException {
        List<TableName> there = tables();
        return name -> Catalogue.alike(there, name).orElse(name);
    }

    @Override
    public Map<TableName, String> otherNames() throws SQLException {
        Map<TableName, String> names = new LinkedHashMap<>();
        query.each(
                "SELECT name, CASE type WHEN 'view' THEN 'a view' ELSE 'an index' END FROM sqlite_schema WHERE type IN"
                        + " ('view', 'index')",
                row -> names.put(TableName.of(row.getString(1)), row.getString(2)));
        return names;
    }

    @Override
    public TableDefinition define(TableName table) throws SQLException {
        String name = table.name();
        CreateTableText text = CreateTableText.of(texts().ofTable(name));
        TableDefinition.Builder builder = TableDefinition.named(table).system(SqliteDialect.SYSTEM);
        Map<Integer, String> key = new TreeMap<>();
        List<Object[]> columns = new ArrayList<>();
        query.each(
                "SELECT name, type, \"notnull\", dflt_value, pk, hidden FROM pragma_table_xinfo(?) ORDER BY cid",
                row -> {
                    columns.add(new Object[] {
                        row.getString(1), row.getString(2), row.getBoolean(3), row.getString(4), row.getInt(6)
                    });
                    if (row.getInt(5) > 0) {
                        key.put(row.getInt(5), row.getString(1));
                    }
                },
                name);
        for (Object[] c : columns) {
            String columnName = (String) c[0];
            String declared = (String) c[1];
            boolean counter = key.size() == 1
                    && key.containsValue(columnName)
                    && declared.equalsIgnoreCase("INTEGER")
                    && !text.isWithoutRowid();
            builder.column(
                    column(name, columnName, declared, (boolean) c[2], (String) c[3], (int) c[4], counter, text));
        }
        if (!key.isEmpty()) {
            builder.primaryKey(new Key(text.primaryKeyName(), List.copyOf(key.values())));
        }
        foreignKeys(builder, name, text);
        uniqueKeysAndIndexes(builder, name, text);
        text.checks().forEach(builder::check);
        TableDefinition declared = builder.build();
        return isRead() ? StoredValues.of(connection).confirm(connection, declared) : declared;
    }

    /** Whether the database is one that is read, so that its values have to come as its definitions say. */
    private boolean isRead() throws SQLException {
        boolean[] only = {false};
        query.each("PRAGMA query_only", row -> only[0] = row.getBoolean(1));
        return only[0];
    }

    /** The words of a type that stand in quotes, which SQLite keeps as they were written. */
    private static String bare(String type) {
        boolean quoted = type.length() > 2 && type.startsWith("\"") && type.endsWith("\"");
        String inside = quoted ? type.substring(1, type.length() - 1) : type;
        return quoted && inside.replace("\"\"", "").indexOf('"') < 0 ? inside.replace("\"\"", "\"") : type;
    }

    private ColumnDefinition column(
            String table,
            String name,
            String written,
            boolean notNull,
            String defaultSql,
            int hidden,
            boolean counter,
            CreateTableText text)
            throws SQLException {
        // a generated column's words come with the rule behind the type
        String declared = bare(written.replaceFirst("(?i)\\s*GENERATED ALWAYS$", ""));
        LogicalType type = counter ? LogicalType.BIGINT : SqliteTypes.logical(declared);
        ColumnDefinition.Builder column = ColumnDefinition.named(name, type)
                .nullable(!notNull && !counter)
                .collation(text.collation(name))
                .sourceType(declared);
        if (hidden == COMPUTED || hidden == STORED) {
            column.generation(text.generation(name));
        } else if (counter) {
            column.identity(Optional.of(new Identity(false, 1, 1, nextOf(table, name))));
        } else {
            column.defaultValue(SqliteDefaults.read(defaultSql, type));
        }
        return column.build();
    }

    private long nextOf(String table, String column) throws SQLException {
        long[] last = {0};
        query.each(
                "SELECT MAX(\"" + column.replace("\"", "\"\"") + "\") FROM \"" + table.replace("\"", "\"\"") + "\"",
                row -> last[0] = row.getLong(1));
        if (texts().hasCounters()) {
            query.each(
                    "SELECT seq FROM sqlite_sequence WHERE name = ?",
                    row -> last[0] = Math.max(last[0], row.getLong(1)),
                    table);
        }
        return last[0] == Long.MAX_VALUE ? last[0] : last[0] + 1;
    }

    private KeptTexts texts() throws SQLException {
        if (texts == null) {
            texts = new KeptTexts(query);
        }
        return texts;
    }

    private void foreignKeys(TableDefinition.Builder builder, String table, CreateTableText text) throws SQLException {
        Map<Integer, List<String[]>> parts = new TreeMap<>(java.util.Comparator.reverseOrder());
        query.each(
                "SELECT id, \"table\", \"from\", \"to\", on_update, on_delete FROM pragma_foreign_key_list(?)"
                        + " ORDER BY id, seq",
                row -> parts.computeIfAbsent(row.getInt(1), id -> new ArrayList<>())
                        .add(new String[] {
                            row.getString(2), row.getString(3), row.getString(4), row.getString(5), row.getString(6)
                        }),
                table);
        for (List<String[]> key : parts.values()) {
            String[] first = key.get(0);
            List<String> columns = key.stream().map(p -> p[1]).toList();
            String target = texts().spelled(first[0]);
            // REFERENCES without columns means the other table's primary key
            List<String> targetColumns = first[2] == null
                    ? primaryKeyOf(target)
                    : key.stream().map(p -> p[2]).toList();
            if (targetColumns.size() == columns.size()) {
                builder.foreignKey(new ForeignKey(
                        text.foreignKeyName(columns),
                        columns,
                        TableName.of(target),
                        targetColumns,
                        ReferentialAction.ofSql(first[3]),
                        ReferentialAction.ofSql(first[4]),
                        text.deferrability(columns)));
            }
        }
    }

    private List<String> primaryKeyOf(String table) throws SQLException {
        List<String> columns = new ArrayList<>();
        query.each(
                "SELECT name FROM pragma_table_xinfo(?) WHERE pk > 0 ORDER BY pk",
                row -> columns.add(row.getString(1)),
                table);
        return columns;
    }

    private void uniqueKeysAndIndexes(TableDefinition.Builder builder, String table, CreateTableText text)
            throws SQLException {
        Map<String, String> origins = new LinkedHashMap<>();
        Map<String, Boolean> unique = new LinkedHashMap<>();
        query.each(
                "SELECT name, origin, \"unique\" FROM pragma_index_list(?) ORDER BY seq DESC",
                row -> {
                    origins.put(row.getString(1), row.getString(2));
                    unique.put(row.getString(1), row.getBoolean(3));
                },
                table);
        for (Map.Entry<String, String> index : origins.entrySet()) {
            CreateIndexText words = CreateIndexText.of(texts().ofIndex(index.getKey()));
            List<IndexDefinition.Part> parts = new ArrayList<>();
            boolean[] special = {false};
            query.each(
                    "SELECT name, \"desc\", coll FROM pragma_index_xinfo(?) WHERE key = 1 ORDER BY seqno",
                    row -> {
                        if (row.getString(1) == null) {
                            special[0] = true;
                            parts.add(IndexDefinition.Part.of(words.expression(parts.size()), row.getBoolean(2)));
                        } else {
                            parts.add(new IndexDefinition.Part(row.getString(1), row.getBoolean(2)));
                        }
                    },
                    index.getKey());
            List<String> columns =
                    parts.stream().map(IndexDefinition.Part::column).toList();
            if (index.getValue().equals("u")) {
                builder.unique(new Key(text.uniqueName(columns), columns));
            } else if (index.getValue().equals("c")) {
                builder.index(new IndexDefinition(
                        index.getKey(),
                        unique.get(index.getKey()),
                        parts,
                        words.predicate(),
                        special[0] ? Optional.of(new SqlText(words.tail(), SqliteDialect.SYSTEM)) : Optional.empty()));
            }
        }
    }

    @Override
    public boolean changesWhatComes(TableName table) throws SQLException {
        return query.any(
                "SELECT 1 FROM sqlite_schema WHERE type = 'trigger' AND lower(tbl_name) = lower(?) LIMIT 1",
                table.name());
    }

    @Override
    public List<LeftBehind> leftBehind() throws SQLException {
        List<LeftBehind> all = new SqliteLeftBehind(query).all();
        all.addAll(StoredValues.of(connection).told());
        return all;
    }
}
