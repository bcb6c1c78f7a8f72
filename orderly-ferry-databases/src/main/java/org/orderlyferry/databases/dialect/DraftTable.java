package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * A table's definition while a catalogue tells it row by row: what has several columns comes in as many parts, in their order.
 * For one thread.
 */
@API(status = API.Status.INTERNAL)
public final class DraftTable {

    private final TableDefinition.Builder table;
    private final Map<Key, List<String>> primary = new LinkedHashMap<>();
    private final Map<Key, List<String>> unique = new LinkedHashMap<>();
    private final Map<String, ForeignKey> references = new LinkedHashMap<>();
    private final Map<String, IndexDefinition> indexes = new LinkedHashMap<>();

    public DraftTable(TableName name, String system) {
        this.table = TableDefinition.named(name).system(system);
    }

    public void column(ColumnDefinition column) {
        table.column(column);
    }

    public void comment(String text) {
        table.comment(text);
    }

    public void check(CheckConstraint check) {
        table.check(check);
    }

    /**
     * A column of the primary key.
     *
     * @param told what the catalogue calls the key, by which its columns belong together
     * @param name what it is to be called; empty where the system has made its name up
     */
    public void primary(String told, String name, String column) {
        primary.computeIfAbsent(new Key(name, List.of(told)), k -> new ArrayList<>())
                .add(column);
    }

    /** A column of a unique key; as {@link #primary} has it. */
    public void unique(String told, String name, String column) {
        unique.computeIfAbsent(new Key(name, List.of(told)), k -> new ArrayList<>())
                .add(column);
    }

    /** A column of a reference; {@code told} is what the catalogue calls it. */
    public void reference(String told, ForeignKey part) {
        references.merge(told, part, ForeignKey::and);
    }

    /** A part of an index, which has a name of its own in its table. */
    public void index(String name, boolean isUnique, IndexDefinition.Part part, Optional<SqlText> predicate) {
        IndexDefinition index = new IndexDefinition(name, isUnique, List.of(part), predicate, Optional.empty());
        indexes.merge(name, index, (a, b) -> {
            List<IndexDefinition.Part> parts = new ArrayList<>(a.parts());
            parts.addAll(b.parts());
            return new IndexDefinition(name, isUnique, parts, predicate, Optional.empty());
        });
    }

    /** The definition, once all is told. */
    public TableDefinition built() {
        primary.forEach((key, columns) -> table.primaryKey(new Key(key.name(), columns)));
        unique.forEach((key, columns) -> table.unique(new Key(key.name(), columns)));
        references.values().forEach(table::foreignKey);
        indexes.values().forEach(table::index);
        return table.build();
    }
}
