package org.orderlyferry.databases.dialect;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.apiguardian.api.API;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * Finds a record that breaks one of a table's rules: systems say that there is one, but often not which. What it finds
 * comes back as a sentence with the record's key.
 */
@API(status = API.Status.INTERNAL)
public final class BrokenRule {

    private final Session session;
    private final Dialect dialect;

    public BrokenRule(Session session) {
        this.session = session;
        this.dialect = session.dialect();
    }

    /**
     * The first record that breaks a key or a check of its table.
     *
     * @param in where the records are
     * @param rules a table with the rules
     * @param shown the table's name for the sentence
     */
    public Optional<String> find(TableName in, TableDefinition rules, TableName shown) throws SQLException {
        for (Key key : keys(rules)) {
            Optional<String> found = duplicate(in, key.columns(), shown);
            if (found.isPresent()) {
                return found;
            }
        }
        for (CheckConstraint check : rules.checks()) {
            Optional<String> found = check(in, rules, check, shown);
            if (found.isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }

    private static List<Key> keys(TableDefinition table) {
        List<Key> keys = new ArrayList<>();
        table.primaryKey().ifPresent(keys::add);
        keys.addAll(table.uniqueKeys());
        return keys;
    }

    /** The first record of a table that refers to one that isn't there. */
    public Optional<String> missingReference(TableDefinition table, TableName shown) throws SQLException {
        for (ForeignKey key : table.foreignKeys()) {
            Optional<String> found = missingReference(table.name(), key, shown, List.of(key.target()));
            if (found.isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }

    /**
     * The first record that refers to one that isn't there.
     *
     * @param targets the tables of which one may hold what is referred to
     */
    public Optional<String> missingReference(TableName in, ForeignKey key, TableName shown, List<TableName> targets)
            throws SQLException {
        StringBuilder missing = new StringBuilder();
        for (TableName target : targets) {
            missing.append(" AND NOT ").append(holds(target, key));
        }
        return first(key.columns(), referring(in, key) + missing)
                .map(values -> "table " + shown + " has a record with " + values + ", which refers to a record of "
                        + key.target() + " that isn't there");
    }

    /** The first record that refers to one that isn't there, told as what comes of something that isn't to happen. */
    public Optional<String> lostReference(TableName in, ForeignKey key) throws SQLException {
        return first(key.columns(), dialect.quote(in) + " c" + whereMissing(key, "c"))
                .map(values -> "table " + in + " has a record with " + values + ", which would refer to a record of "
                        + key.target() + " that isn't there any more");
    }

    /** How many records refer to one that isn't there. */
    public long missingReferences(TableName in, ForeignKey key) throws SQLException {
        return Long.parseLong(session.value("SELECT " + dialect.reading().counting() + " FROM " + dialect.quote(in)
                        + " c" + whereMissing(key, "c"))
                .orElse("0"));
    }

    /**
     * The first record that refers to one that is there, and isn't in the table that is to take its table's place.
     *
     * @param next that table
     */
    public Optional<String> lostReference(TableName in, ForeignKey key, TableName next) throws SQLException {
        return first(
                        key.columns(),
                        referring(in, key) + " AND " + holds(key.target(), key) + " AND NOT " + holds(next, key))
                .map(values -> "table " + in + " has a record with " + values + ", which refers to a record of "
                        + key.target() + " that isn't there any more");
    }

    /**
     * The first record that has come to a table and went along with what it refers to, or lost what it referred by.
     *
     * @param in where it came from
     * @param own the columns by which records are the same
     */
    public Optional<String> goneAlong(TableName in, TableName table, ForeignKey key, List<String> own)
            throws SQLException {
        List<String> still = new ArrayList<>();
        own.forEach(c -> still.add("t." + dialect.quote(c) + " = c." + dialect.quote(c)));
        key.columns().forEach(c -> still.add("t." + dialect.quote(c) + " IS NOT NULL"));
        return first(
                        key.columns(),
                        referring(in, key) + " AND NOT EXISTS (SELECT 1 FROM " + dialect.quote(table) + " t WHERE "
                                + String.join(" AND ", still) + ")")
                .map(values -> "table " + table + " has a record with " + values + ", which refers to a record of "
                        + key.target() + " that isn't there");
    }

    /** The condition for records of a table that refer to nothing, where they are to go or to change. */
    public String whereMissing(TableName in, ForeignKey key) {
        return whereMissing(key, dialect.quote(in));
    }

    private String whereMissing(ForeignKey key, String referring) {
        return where(key, referring) + " AND NOT " + holds(key.target(), key, referring);
    }

    private String referring(TableName in, ForeignKey key) {
        return dialect.quote(in) + " c" + where(key, "c");
    }

    private String where(ForeignKey key, String referring) {
        return " WHERE "
                + key.columns().stream()
                        .map(c -> referring + "." + dialect.quote(c) + " IS NOT NULL")
                        .collect(Collectors.joining(" AND "));
    }

    private String holds(TableName target, ForeignKey key) {
        return holds(target, key, "c");
    }

    private String holds(TableName target, ForeignKey key, String referring) {
        List<String> same = new ArrayList<>();
        for (int i = 0; i < key.columns().size(); i++) {
            same.add("p." + dialect.quote(key.targetColumns().get(i)) + " = " + referring + "."
                    + dialect.quote(key.columns().get(i)));
        }
        return "EXISTS (SELECT 1 FROM " + dialect.quote(target) + " p WHERE " + String.join(" AND ", same) + ")";
    }

    /** The first record whose key one of another table has. */
    public Optional<String> taken(TableName in, TableDefinition there) throws SQLException {
        for (Key key : keys(there)) {
            String same = String.join(
                    " AND ",
                    key.columns().stream()
                            .map(c -> "p." + dialect.quote(c) + " = c." + dialect.quote(c))
                            .toList());
            Optional<String> found = first(
                    key.columns(),
                    dialect.quote(in) + " c WHERE EXISTS (SELECT 1 FROM " + dialect.quote(there.name()) + " p WHERE "
                            + same + ")");
            if (found.isPresent()) {
                return found.map(values -> "table " + there.name() + " has a record with " + values + " already");
            }
        }
        return Optional.empty();
    }

    /** The first values of a key that two records have. */
    public Optional<String> duplicate(TableName in, List<String> key, TableName shown) throws SQLException {
        List<String> given =
                key.stream().map(c -> "c." + dialect.quote(c) + " IS NOT NULL").toList();
        String columns =
                String.join(", ", key.stream().map(c -> "c." + dialect.quote(c)).toList());
        return first(
                        key,
                        dialect.quote(in) + " c WHERE " + String.join(" AND ", given) + " GROUP BY " + columns
                                + " HAVING COUNT(*) > 1")
                .map(values ->
                        "table " + shown + " has more than one record with " + values + ", and the key allows one");
    }

    private Optional<String> check(TableName in, TableDefinition rules, CheckConstraint check, TableName shown)
            throws SQLException {
        List<String> key = rules.primaryKey().map(Key::columns).orElse(rules.columnNames());
        return first(key, dialect.quote(in) + " c WHERE NOT (" + check.expression() + ")")
                .map(values -> "table " + shown + " has a record with " + values + ", which breaks the check "
                        + (check.name().isEmpty() ? "" : check.name() + " ") + "(" + check.expression() + ")");
    }

    private Optional<String> first(List<String> columns, String from) throws SQLException {
        String list = String.join(
                ", ", columns.stream().map(c -> "c." + dialect.quote(c)).toList());
        try (var statement = session.connection().createStatement()) {
            statement.setMaxRows(1);
            try (var row = statement.executeQuery("SELECT " + list + " FROM " + from)) {
                if (!row.next()) {
                    return Optional.empty();
                }
                List<String> values = new ArrayList<>();
                for (int i = 0; i < columns.size(); i++) {
                    values.add(columns.get(i) + " = " + row.getString(i + 1));
                }
                return Optional.of(String.join(", ", values));
            }
        }
    }
}
