package org.orderlyferry.databases.mariadb;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/**
 * How much of a text or of bytes an entry of a key or an index has room for: 3,072 bytes for all of its columns together,
 * of which a character takes up to four.
 */
final class KeyRoom {

    private static final int BYTES = 3_072;
    private static final int LONGEST = 500;
    private static final int SHORTEST = 20;
    private static final int NUMBER = 16;

    /** Bytes in the smallest of them. */
    private static final int TINY = 255;

    private static final Pattern UNSIZED = Pattern.compile("(?i)(tiny|medium|long)?(text|blob)");

    private KeyRoom() {}

    /** Columns that belong together in a key, in a reference, or in an index whose entries must differ. */
    private static List<List<String>> keys(TableDefinition table) {
        List<List<String>> keys = new ArrayList<>();
        table.primaryKey().ifPresent(k -> keys.add(k.columns()));
        table.uniqueKeys().forEach(k -> keys.add(k.columns()));
        table.foreignKeys().forEach(k -> keys.add(k.columns()));
        table.indexes().stream().filter(IndexDefinition::unique).forEach(i -> keys.add(i.columns()));
        return keys;
    }

    /** How long a column may be as part of its keys; nothing where it may stay as it is. */
    static Optional<Integer> ofKeys(TableDefinition table, ColumnDefinition column) {
        return keys(table).stream()
                .filter(k -> k.contains(column.name()))
                .flatMap(k -> share(
                        column.type(),
                        k.stream().flatMap(c -> table.column(c).stream()).toList())
                        .stream())
                .min(Integer::compare);
    }

    private static Optional<Integer> share(LogicalType type, List<ColumnDefinition> columns) {
        int whole = columns.stream().mapToInt(c -> bytes(c.type())).sum();
        if (!isLong(type) || whole <= BYTES) {
            return Optional.empty();
        }
        int room = room(type, columns);
        if (isUnsized(type)) {
            return Optional.of(Math.min(LONGEST, room));
        }
        return type.size() > room ? Optional.of(room) : Optional.empty();
    }

    /**
     * An index whose entries have room: of texts and bytes that are too long, or have no length, their beginnings count.
     *
     * @param table as MariaDB will hold it
     */
    static IndexDefinition fitted(TableDefinition table, IndexDefinition index) {
        List<ColumnDefinition> columns =
                index.columns().stream().flatMap(c -> table.column(c).stream()).toList();
        boolean known = columns.size() == index.parts().size();
        int whole = columns.stream().mapToInt(c -> bytes(c.type())).sum();
        if (index.unique() || !known || whole <= BYTES && columns.stream().noneMatch(c -> isUnsized(c.type()))) {
            return index;
        }
        List<IndexDefinition.Part> parts = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            IndexDefinition.Part part = index.parts().get(i);
            LogicalType type = columns.get(i).type();
            int most = Math.min(LONGEST, room(type, columns));
            boolean cut = part.prefix() == 0 && isLong(type) && (isUnsized(type) || type.size() > most);
            parts.add(cut ? new IndexDefinition.Part(part.column(), part.expression(), part.descending(), most) : part);
        }
        return new IndexDefinition(index.name(), false, parts, index.predicate(), index.own());
    }

    /**
     * How much of a column of a primary key counts in it: all, or what MariaDB has to be told of texts and bytes that have no
     * length, which no definition says, since whatever differs in its beginning differs as a whole.
     *
     * @param table of MariaDB's own types
     * @return 0 for all of it
     */
    static int ofPrimary(TableDefinition table, String name) {
        List<ColumnDefinition> columns = table.primaryKey().stream()
                .flatMap(k -> k.columns().stream())
                .flatMap(c -> table.column(c).stream())
                .toList();
        Map<Boolean, List<ColumnDefinition>> parted = columns.stream()
                .collect(Collectors.partitioningBy(
                        c -> UNSIZED.matcher(c.sourceType()).matches()));
        int left = BYTES
                - parted.get(false).stream().mapToInt(c -> bytes(c.type())).sum();
        return parted.get(true).stream()
                .filter(c -> c.name().equals(name))
                .findFirst()
                .map(c -> {
                    int bytes = c.type().name().isText() ? 4 : 1;
                    int most = c.sourceType().startsWith("tiny") ? TINY / bytes : LONGEST;
                    int share = left / parted.get(true).size() / bytes;
                    return Math.min(most, Math.max(SHORTEST, share));
                })
                .orElse(0);
    }

    /** An even share for each column that is a text or bytes: how many characters, or bytes, it comes to. */
    private static int room(LogicalType type, List<ColumnDefinition> columns) {
        int left = BYTES;
        int longs = 0;
        for (ColumnDefinition column : columns) {
            left -= isLong(column.type()) ? 0 : bytes(column.type());
            longs += isLong(column.type()) ? 1 : 0;
        }
        return Math.max(SHORTEST, left / Math.max(1, longs) / (type.name().isText() ? 4 : 1));
    }

    private static boolean isLong(LogicalType type) {
        return type.name().isText() || type.name().isBinary();
    }

    private static boolean isUnsized(LogicalType type) {
        String own = MariaTypes.sql(type);
        return isLong(type) && (own.equals("LONGTEXT") || own.equals("LONGBLOB"));
    }

    private static int bytes(LogicalType type) {
        if (isUnsized(type)) {
            return BYTES + 1;
        }
        return type.name().isText()
                ? 4 * type.size()
                : type.name() == TypeName.UUID ? 4 * 36 : isLong(type) ? type.size() : NUMBER;
    }
}
