package org.orderlyferry.documents.mongodb;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * The names under which a database of documents holds tables and columns. A key of one column is the documents' {@code _id}; one of
 * several is an {@code _id} of as many fields.
 */
final class StoreNames {

    /** A collection's name and its database's have 255 bytes together. */
    private static final int LONGEST = 190;

    private final List<Finding> findings = new ArrayList<>();
    private final Map<TableName, TableDefinition> named = new LinkedHashMap<>();

    /**
     * Names tables.
     *
     * @param lists those whose records are elements of lists, and have no ids
     */
    StoreNames(List<TableDefinition> tables, Set<TableName> lists) {
        Set<String> taken = new HashSet<>();
        for (TableDefinition table : tables) {
            TableName source = table.name();
            boolean alone = tables.stream()
                            .filter(t -> t.name().name().equals(source.name()))
                            .count()
                    == 1;
            String wanted = alone || source.schema().isEmpty() ? source.name() : source.schema() + "_" + source.name();
            String name = free(collection(wanted), taken);
            if (!name.equals(source.name()) || !source.schema().isEmpty()) {
                findings.add(Finding.of(
                        FindingCode.NAME_CHANGED,
                        source,
                        (name.equals(source.name())
                                        ? "is named without its schema"
                                        : "the table becomes the collection " + name)
                                + (source.schema().isEmpty() ? "" : ": there are no schemas here")));
            }
            named.put(source, columns(table, TableName.of(name), lists.contains(source)));
        }
    }

    private static String collection(String wanted) {
        String name = wanted.replace('$', '_').replace('\0', '_');
        if (name.startsWith("system.") || LoadNote.isReserved(name)) {
            name = "_" + name;
        }
        while (name.getBytes(StandardCharsets.UTF_8).length > LONGEST) {
            name = name.substring(0, name.offsetByCodePoints(name.length(), -1));
        }
        return name;
    }

    private static String free(String wanted, Set<String> taken) {
        String name = wanted;
        for (int number = 2; !taken.add(name); number++) {
            name = wanted + "_" + number;
        }
        return name;
    }

    private TableDefinition columns(TableDefinition table, TableName name, boolean isList) {
        Map<String, String> names = new LinkedHashMap<>();
        Set<String> taken = isList ? new HashSet<>() : new HashSet<>(Set.of(KeyStats.ID));
        List<String> key =
                isList ? List.of() : table.primaryKey().map(Key::columns).orElse(List.of());
        boolean own = table.system().equals(Held.SYSTEM);
        for (String column : table.columnNames()) {
            String field;
            if (key.contains(column)) {
                field = key.size() == 1
                        ? KeyStats.ID
                        : column.startsWith(KeyStats.ID + ".") ? column : KeyStats.ID + "." + plain(column);
            } else {
                // of documents, a point stands between the names of a path
                field = free(own ? column : plain(column), taken);
            }
            taken.add(field);
            names.put(column, field);
            if (!field.equals(column)) {
                findings.add(new Finding(
                        FindingCode.NAME_CHANGED, table.name(), column, "the column becomes the field " + field));
            }
        }
        return renamed(table, names).name(name).build();
    }

    /** A name that is no path, and none of the words of queries. */
    private static String plain(String column) {
        String name = column.replace('.', '_').replace('\0', '_');
        return name.startsWith("$") ? "_" + name.substring(1) : name;
    }

    private static TableDefinition.Builder renamed(TableDefinition table, Map<String, String> names) {
        return table.toBuilder()
                .columns(table.columns().stream()
                        .map(c -> c.withName(names.get(c.name())))
                        .toList())
                .primaryKey(table.primaryKey().map(k -> key(k, names)).orElse(null))
                .uniqueKeys(table.uniqueKeys().stream().map(k -> key(k, names)).toList())
                .indexes(table.indexes().stream().map(i -> index(i, names)).toList());
    }

    private static Key key(Key key, Map<String, String> names) {
        return new Key(
                key.name(),
                key.columns().stream().map(c -> names.getOrDefault(c, c)).toList());
    }

    private static IndexDefinition index(IndexDefinition index, Map<String, String> names) {
        return new IndexDefinition(
                index.name(),
                index.unique(),
                index.parts().stream()
                        .map(p -> new IndexDefinition.Part(
                                names.getOrDefault(p.column(), p.column()), p.expression(), p.descending(), p.prefix()))
                        .toList(),
                index.predicate(),
                index.own());
    }

    /** A table as it is called here. */
    TableDefinition of(TableDefinition table) {
        return named.get(table.name());
    }

    /** What is called otherwise. */
    List<Finding> findings() {
        return List.copyOf(findings);
    }
}
