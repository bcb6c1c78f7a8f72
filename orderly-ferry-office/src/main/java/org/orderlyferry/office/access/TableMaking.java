package org.orderlyferry.office.access;

import com.healthmarketscience.jackcess.ColumnBuilder;
import com.healthmarketscience.jackcess.DataType;
import com.healthmarketscience.jackcess.Database;
import com.healthmarketscience.jackcess.IndexBuilder;
import com.healthmarketscience.jackcess.PropertyMap;
import com.healthmarketscience.jackcess.Table;
import com.healthmarketscience.jackcess.TableBuilder;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** Makes a file's tables, with their keys and indexes, and tells what they can't have. Not safe for use by several threads. */
final class TableMaking {

    /** How long a property may be, in units of UTF-16. */
    private static final int LONGEST = 255;

    private static final int MOST_INDEXES = 32;
    private static final int MOST_INDEXED = 10;

    private static final Pattern NUMBER = Pattern.compile("-?[0-9]+(\\.[0-9]+)?");

    private final Database database;
    private final AccessVersion version;
    private final AccessNames names = new AccessNames();
    private final Map<TableName, Map<String, String>> columnNames = new HashMap<>();
    private final List<Finding> findings = new ArrayList<>();
    private final List<LeftBehind> leftBehind = new ArrayList<>();

    TableMaking(Database database, AccessVersion version) {
        this.database = database;
        this.version = version;
    }

    /** What a table's columns are called in the file, by their names. */
    Map<String, String> columnNames(TableName table) {
        return columnNames.get(table);
    }

    List<Finding> findings() {
        return findings;
    }

    List<LeftBehind> leftBehind() {
        return leftBehind;
    }

    /**
     * Makes a table.
     *
     * @throws IOException if the file can't be written
     */
    Table make(TableDefinition table) throws IOException {
        String name = named(names, table.name().toString(), table, "");
        TableBuilder builder = new TableBuilder(name);
        property(AccessDefinitions.NAME, table.name().toString(), builder::putProperty);
        comment(table.comment(), table.name().toString(), builder::putProperty);
        AccessNames inTable = new AccessNames();
        Map<String, String> inFile = new HashMap<>();
        boolean counted = false;
        for (ColumnDefinition column : table.columns()) {
            String columnName = named(inTable, column.name(), table, column.name());
            inFile.put(column.name(), columnName);
            ColumnBuilder made = AccessTypes.column(column, columnName, version);
            property(AccessDefinitions.NAME, column.name(), made::putProperty);
            property(AccessDefinitions.TYPE, column.type().toString(), made::putProperty);
            properties(table.name(), column, made);
            if (column.identity().isPresent() && made.getType() == DataType.LONG && !counted) {
                made.setAutoNumber(true);
                counted = true;
            } else if (column.identity().isPresent()) {
                leftBehind.add(new LeftBehind(
                        "identity",
                        table.name() + "." + column.name(),
                        "only one whole number of 32 bits counts by itself"));
            }
            if (!AccessTypes.isSame(column.type(), made.getType())) {
                findings.add(new Finding(
                        FindingCode.TYPE_CHANGED,
                        table.name(),
                        column.name(),
                        column.type() + " is held as " + made.getType() + ", which a desktop database has for it"));
            }
            builder.addColumn(made);
        }
        columnNames.put(table.name(), inFile);
        keys(table, inFile, builder);
        Table made = builder.toTable(database);
        made.setAllowAutoNumberInsert(true);
        return made;
    }

    private String named(AccessNames from, String wanted, TableDefinition table, String column) {
        String given = from.of(wanted);
        if (!given.equals(wanted)) {
            findings.add(new Finding(
                    FindingCode.NAME_CHANGED,
                    table.name(),
                    column,
                    "stands there as " + given + ", for the file's rules"));
        }
        return given;
    }

    /** Takes a property of a table or a column. */
    @FunctionalInterface
    private interface Properties {
        Object put(String name, DataType type, Object value);
    }

    /** What a description beside the file has anyway; one that is too long stands there alone. */
    private static void property(String name, String value, Properties properties) {
        if (value.length() <= LONGEST) {
            properties.put(name, DataType.MEMO, value);
        }
    }

    private void comment(String text, String of, Properties properties) {
        if (text.isEmpty()) {
            return;
        }
        int end = Math.min(text.length(), LONGEST);
        boolean split = end < text.length() && Character.isLowSurrogate(text.charAt(end));
        String kept = text.substring(0, split ? end - 1 : end);
        if (kept.length() < text.length()) {
            leftBehind.add(new LeftBehind(
                    "ends of comments", of, "a desktop database has room for " + LONGEST + " characters of each"));
        }
        properties.put(PropertyMap.DESCRIPTION_PROP, DataType.TEXT, kept);
    }

    private void properties(TableName table, ColumnDefinition column, ColumnBuilder made) {
        String called = table + "." + column.name();
        comment(column.comment(), called, made::putProperty);
        if (!column.nullable()) {
            made.putProperty(PropertyMap.REQUIRED_PROP, DataType.BOOLEAN, true);
        }
        if (made.getType() == DataType.TEXT || made.getType() == DataType.MEMO) {
            made.putProperty(PropertyMap.ALLOW_ZERO_LEN_PROP, DataType.BOOLEAN, true);
        }
        if (column.defaultValue().orElse(null) instanceof ColumnDefault.Literal literal
                && !column.type().name().isBinary()) {
            // the file's program computes what stands there, so it is a number or a text, whatever somebody has called
            // it
            String text = literal.text();
            String written =
                    NUMBER.matcher(text).matches() && column.type().name().isExactNumber()
                            ? text
                            : "\"" + text.replace("\"", "\"\"") + "\"";
            if (written.length() > LONGEST) {
                leftBehind.add(new LeftBehind(
                        "default", called, "a desktop database has room for " + LONGEST + " characters of it"));
            } else {
                made.putProperty(PropertyMap.DEFAULT_VALUE_PROP, DataType.MEMO, written);
            }
        }
    }

    private void keys(TableDefinition table, Map<String, String> inFile, TableBuilder builder) {
        Set<String> tooLong = new HashSet<>();
        builder.getColumns().stream()
                .filter(c -> c.getType() == DataType.MEMO || c.getType() == DataType.OLE)
                .forEach(c -> tooLong.add(c.getName()));
        AccessNames indexes = new AccessNames();
        table.primaryKey().ifPresent(key -> {
            if (canIndex(table, "primary key", key.shown(), key.columns(), inFile, tooLong, builder)) {
                builder.addIndex(new LocalIndexBuilder(indexes.of(IndexBuilder.PRIMARY_KEY_NAME))
                        .addColumns(inFile(key.columns(), inFile))
                        .setPrimaryKey());
            }
        });
        for (Key key : table.uniqueKeys()) {
            if (canIndex(table, "unique key", key.shown(), key.columns(), inFile, tooLong, builder)) {
                builder.addIndex(new LocalIndexBuilder(indexes.of(key.name().isEmpty() ? "unique" : key.name()))
                        .addColumns(inFile(key.columns(), inFile))
                        .setUnique()
                        .setIgnoreNulls());
            }
        }
        for (IndexDefinition index : table.indexes()) {
            if (!index.isPlain()) {
                leftBehind.add(
                        new LeftBehind("index", table.name() + "." + index.shown(), "it is by more than columns"));
            } else if (canIndex(table, "index", index.shown(), index.columns(), inFile, tooLong, builder)) {
                IndexBuilder made =
                        new LocalIndexBuilder(indexes.of(index.name().isEmpty() ? "index" : index.name()));
                for (IndexDefinition.Part part : index.parts()) {
                    made.addColumns(!part.descending(), inFile.get(part.column()));
                }
                builder.addIndex(index.unique() ? made.setUnique().setIgnoreNulls() : made);
            }
        }
    }

    private boolean canIndex(
            TableDefinition table,
            String kind,
            String name,
            List<String> columns,
            Map<String, String> inFile,
            Set<String> tooLong,
            TableBuilder builder) {
        Optional<String> against = columns.stream().map(inFile::get).anyMatch(tooLong::contains)
                ? Optional.of("long texts and objects can't be indexed")
                : columns.size() > MOST_INDEXED
                        ? Optional.of("an index is of " + MOST_INDEXED + " columns at most")
                        : builder.getIndexes().size() >= MOST_INDEXES
                                ? Optional.of("a table has " + MOST_INDEXES + " indexes at most")
                                : Optional.empty();
        against.ifPresent(reason -> leftBehind.add(new LeftBehind(kind, table.name() + "." + name, reason)));
        return against.isEmpty();
    }

    private static String[] inFile(List<String> columns, Map<String, String> names) {
        return columns.stream().map(names::get).toArray(String[]::new);
    }
}
