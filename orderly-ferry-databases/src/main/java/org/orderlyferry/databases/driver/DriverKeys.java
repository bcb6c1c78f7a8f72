package org.orderlyferry.databases.driver;

import java.sql.DatabaseMetaData;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * A table's keys, references and indexes as a driver tells of them.
 *
 * @param names a table's name by its schema and its own
 * @param ofKeys names of indexes that are those of unique keys, whatever the driver says
 */
record DriverKeys(
        DatabaseMetaData data, String catalog, String schema, TableName table, Names names, Set<String> ofKeys) {

    /** Gives a table's name. */
    @FunctionalInterface
    interface Names {
        TableName of(String schema, String table);
    }

    /** Names that systems give by themselves to what has none. */
    private static final Pattern GIVEN =
            Pattern.compile("(SYS_|SYS_IDX_|SQL\\d|RDB\\$|INTEG_|PRIMARY_KEY_|CONSTRAINT_INDEX_).*");

    void into(TableDefinition.Builder builder) throws SQLException {
        Optional<Key> primary = primary();
        primary.ifPresent(builder::primaryKey);
        List<ForeignKey> references = references();
        references.forEach(k -> builder.foreignKey(k.withName(given(k.name()))));
        indexes(builder, primary, references);
    }

    /** A rule's name, unless the system has given it by itself. */
    static String given(String name) {
        return name == null || GIVEN.matcher(name).matches() ? "" : name;
    }

    private Optional<Key> primary() throws SQLException {
        TreeMap<Integer, String> columns = new TreeMap<>();
        String name = null;
        try (ResultSet row = data.getPrimaryKeys(catalog, schema, table.name())) {
            while (row.next()) {
                columns.put(row.getInt("KEY_SEQ"), row.getString("COLUMN_NAME"));
                name = row.getString("PK_NAME");
            }
        }
        return columns.isEmpty() ? Optional.empty() : Optional.of(new Key(given(name), List.copyOf(columns.values())));
    }

    /** The references, by the names by which they can be dropped. */
    List<ForeignKey> references() throws SQLException {
        Map<String, ForeignKey> keys = new LinkedHashMap<>();
        int unnamed = 0;
        try (ResultSet row = data.getImportedKeys(catalog, schema, table.name())) {
            while (row.next()) {
                String name = row.getString("FK_NAME");
                unnamed += row.getInt("KEY_SEQ") == 1 ? 1 : 0;
                ForeignKey part = new ForeignKey(
                        name == null ? "" : name,
                        List.of(row.getString("FKCOLUMN_NAME")),
                        names.of(row.getString("PKTABLE_SCHEM"), row.getString("PKTABLE_NAME")),
                        List.of(row.getString("PKCOLUMN_NAME")),
                        action(row.getInt("UPDATE_RULE")),
                        action(row.getInt("DELETE_RULE")),
                        deferrability(row.getInt("DEFERRABILITY")));
                keys.merge(name == null ? "#" + unnamed : name, part, ForeignKey::and);
            }
        }
        return new ArrayList<>(keys.values());
    }

    private static <T> List<T> both(List<T> one, List<T> other) {
        List<T> all = new ArrayList<>(one);
        all.addAll(other);
        return all;
    }

    private static ReferentialAction action(int rule) {
        return switch (rule) {
            case DatabaseMetaData.importedKeyCascade -> ReferentialAction.CASCADE;
            case DatabaseMetaData.importedKeyRestrict -> ReferentialAction.RESTRICT;
            case DatabaseMetaData.importedKeySetNull -> ReferentialAction.SET_NULL;
            case DatabaseMetaData.importedKeySetDefault -> ReferentialAction.SET_DEFAULT;
            default -> ReferentialAction.NO_ACTION;
        };
    }

    private static Deferrability deferrability(int told) {
        return told == DatabaseMetaData.importedKeyInitiallyDeferred
                ? Deferrability.INITIALLY_DEFERRED
                : Deferrability.NOT_DEFERRABLE;
    }

    /** What an index is of that its driver names and says no more of. */
    private static SqlText untold(String system) {
        return new SqlText("(columns that its driver doesn't tell)", system);
    }

    private void indexes(TableDefinition.Builder builder, Optional<Key> primary, List<ForeignKey> references)
            throws SQLException {
        Map<String, IndexDefinition> indexes = new LinkedHashMap<>();
        boolean[] unknown = {false};
        try (ResultSet row = data.getIndexInfo(catalog, schema, table.name(), false, true)) {
            while (row.next()) {
                String name = row.getString("INDEX_NAME");
                boolean statistic = row.getShort("TYPE") == DatabaseMetaData.tableIndexStatistic && !row.wasNull();
                if (statistic || name == null) {
                    continue;
                }
                String column = row.getString("COLUMN_NAME");
                IndexDefinition part = new IndexDefinition(
                        name,
                        ofKeys.contains(name) || !row.getBoolean("NON_UNIQUE"),
                        column == null
                                ? List.of()
                                : List.of(new IndexDefinition.Part(column, "D".equals(row.getString("ASC_OR_DESC")))));
                indexes.merge(
                        name, part, (a, b) -> new IndexDefinition(a.name(), a.unique(), both(a.parts(), b.parts())));
            }
        }
        for (IndexDefinition index : indexes.values()) {
            boolean key = index.unique()
                    && primary.filter(k -> k.columns().equals(index.columns())).isPresent();
            boolean given = GIVEN.matcher(index.name()).matches();
            boolean reference = references.stream()
                    .anyMatch(k -> k.columns().equals(index.columns())
                            && (given || k.name().equals(index.name())));
            if (key || reference && !index.unique()) {
                continue;
            }
            if (index.parts().isEmpty()) {
                builder.index(new IndexDefinition(
                        index.name(),
                        index.unique(),
                        List.of(),
                        Optional.empty(),
                        Optional.of(untold(builder.build().system()))));
            } else if (given && index.unique()) {
                builder.unique(new Key("", index.columns()));
            } else {
                builder.index(index);
            }
        }
    }
}
