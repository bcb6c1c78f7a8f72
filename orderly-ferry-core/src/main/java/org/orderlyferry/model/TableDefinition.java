package org.orderlyferry.model;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * A table: its columns in order, its keys, and what else its system holds about it.
 *
 * @param comment empty for none
 * @param system whose words the columns' own types and collations are, for example {@code PostgreSQL}; empty for none
 */
public record TableDefinition(
        TableName name,
        List<ColumnDefinition> columns,
        Optional<Key> primaryKey,
        List<Key> uniqueKeys,
        List<ForeignKey> foreignKeys,
        List<CheckConstraint> checks,
        List<IndexDefinition> indexes,
        String comment,
        String system) {

    public TableDefinition {
        Objects.requireNonNull(name, "name");
        columns = List.copyOf(columns);
        uniqueKeys = List.copyOf(uniqueKeys);
        foreignKeys = List.copyOf(foreignKeys);
        checks = List.copyOf(checks);
        indexes = List.copyOf(indexes);
    }

    /** A table that is yet to be told. */
    public static Builder named(TableName name) {
        return new Builder(name);
    }

    /** A table that is yet to be told, by its name without a schema. */
    public static Builder named(String name) {
        return new Builder(TableName.of(name));
    }

    /** A builder that starts with all that this definition holds. */
    public Builder toBuilder() {
        Builder builder = new Builder(name);
        builder.columns.addAll(columns);
        builder.primaryKey = primaryKey.orElse(null);
        builder.uniqueKeys.addAll(uniqueKeys);
        builder.foreignKeys.addAll(foreignKeys);
        builder.checks.addAll(checks);
        builder.indexes.addAll(indexes);
        builder.comment = comment;
        builder.system = system;
        return builder;
    }

    /** The names of all columns, in their order. */
    public List<String> columnNames() {
        return columns.stream().map(ColumnDefinition::name).toList();
    }

    /** The column of a name, which is taken to the letter. */
    public Optional<ColumnDefinition> column(String wanted) {
        return columns.stream().filter(c -> c.name().equals(wanted)).findFirst();
    }

    /** The same table with only these columns, in this order; keys are kept as they are. */
    public TableDefinition withColumns(List<String> wanted) {
        Map<String, ColumnDefinition> all =
                columns.stream().collect(Collectors.toMap(ColumnDefinition::name, c -> c, (one, other) -> one));
        List<ColumnDefinition> chosen = new ArrayList<>();
        for (String one : wanted) {
            if (!all.containsKey(one)) {
                throw new IllegalArgumentException("no column " + one + " in " + name);
            }
            chosen.add(all.get(one));
        }
        return toBuilder().columns(chosen).build();
    }

    /** Not safe for use by several threads. */
    public static final class Builder {
        private TableName name;
        private final List<ColumnDefinition> columns = new ArrayList<>();
        private final List<Key> uniqueKeys = new ArrayList<>();
        private final List<ForeignKey> foreignKeys = new ArrayList<>();
        private final List<CheckConstraint> checks = new ArrayList<>();
        private final List<IndexDefinition> indexes = new ArrayList<>();
        private @Nullable Key primaryKey;
        private String comment = "";
        private String system = "";

        private Builder(TableName name) {
            this.name = name;
        }

        /** By another name. */
        public Builder name(TableName value) {
            name = value;
            return this;
        }

        /** These columns instead of those so far. */
        public Builder columns(List<ColumnDefinition> others) {
            return replaced(columns, others);
        }

        /** These instead of those so far. */
        public Builder uniqueKeys(List<Key> others) {
            return replaced(uniqueKeys, others);
        }

        /** These instead of those so far. */
        public Builder foreignKeys(List<ForeignKey> others) {
            return replaced(foreignKeys, others);
        }

        /** These instead of those so far. */
        public Builder checks(List<CheckConstraint> others) {
            return replaced(checks, others);
        }

        /** These instead of those so far. */
        public Builder indexes(List<IndexDefinition> others) {
            return replaced(indexes, others);
        }

        private <T> Builder replaced(List<T> list, List<T> others) {
            List<T> kept = List.copyOf(others);
            list.clear();
            list.addAll(kept);
            return this;
        }

        /** One column more. */
        public Builder column(ColumnDefinition column) {
            columns.add(column);
            return this;
        }

        /** One column more, which may hold null. */
        public Builder column(String columnName, LogicalType type) {
            return column(ColumnDefinition.of(columnName, type));
        }

        /** The primary key; null for none. */
        public Builder primaryKey(@Nullable Key key) {
            primaryKey = key;
            return this;
        }

        /** The primary key over these columns, without a name. */
        public Builder primaryKey(String... keyColumns) {
            return primaryKey(new Key("", List.of(keyColumns)));
        }

        /** One unique key more. */
        public Builder unique(Key key) {
            uniqueKeys.add(key);
            return this;
        }

        /** One reference to another table more. */
        public Builder foreignKey(ForeignKey key) {
            foreignKeys.add(key);
            return this;
        }

        /** One check more. */
        public Builder check(CheckConstraint check) {
            checks.add(check);
            return this;
        }

        /** One index more. */
        public Builder index(IndexDefinition index) {
            indexes.add(index);
            return this;
        }

        /** What a person has said of the table; empty for nothing. */
        public Builder comment(String text) {
            comment = text;
            return this;
        }

        /** The system whose definition it is, such as {@code H2}; empty for none. */
        public Builder system(String value) {
            system = value;
            return this;
        }

        /** The table as told. */
        public TableDefinition build() {
            return new TableDefinition(
                    name,
                    columns,
                    Optional.ofNullable(primaryKey),
                    uniqueKeys,
                    foreignKeys,
                    checks,
                    indexes,
                    comment,
                    system);
        }
    }
}
