package org.orderlyferry.databases.h2;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * How tables take their places in H2. Its names of keys and indexes are the schema's, so a table is loaded with others;
 * views and references of other tables are made anew.
 */
final class H2Settling implements Settling {

    private final H2Dialect dialect;
    private final DefinitionSql sql;

    H2Settling(H2Dialect dialect) {
        this.dialect = dialect;
        this.sql = new DefinitionSql(dialect);
    }

    @Override
    public List<String> obstacles(Session session, TableDefinition there, TableDefinition comes) throws SQLException {
        List<String> found = new ArrayList<>();
        session.query()
                .each(
                        "SELECT TRIGGER_NAME FROM INFORMATION_SCHEMA.TRIGGERS WHERE EVENT_OBJECT_TABLE = ?",
                        row -> {
                            found.add("table " + there.name() + " can't be replaced: it has the trigger "
                                    + row.getString(1));
                        },
                        there.name().name());
        return found;
    }

    @Override
    public TableDefinition whileLoaded(Arrival arrival) {
        TableDefinition table = arrival.table();
        String head = arrival.loaded().name() + "_";
        List<IndexDefinition> indexes = new ArrayList<>();
        for (IndexDefinition index : table.indexes()) {
            indexes.add(new IndexDefinition(
                    head + "i" + indexes.size(), index.unique(), index.parts(), index.predicate(), index.own()));
        }
        List<Key> unique = new ArrayList<>();
        for (Key key : table.uniqueKeys()) {
            unique.add(new Key(key.name().isEmpty() ? "" : head + "u" + unique.size(), key.columns()));
        }
        List<CheckConstraint> checks = new ArrayList<>();
        for (CheckConstraint check : table.checks()) {
            checks.add(
                    new CheckConstraint(check.name().isEmpty() ? "" : head + "c" + checks.size(), check.condition()));
        }
        return table.toBuilder()
                .name(arrival.loaded())
                .primaryKey(table.primaryKey()
                        .map(k -> new Key(k.name().isEmpty() ? "" : head + "p", k.columns()))
                        .orElse(null))
                .uniqueKeys(unique)
                .checks(checks)
                .indexes(indexes)
                .build();
    }

    @Override
    public List<Step> takePlaces(Session session, List<Arrival> arrivals) throws SQLException {
        List<Arrival> replacing =
                arrivals.stream().filter(a -> a.there().isPresent()).toList();
        List<Step> steps = new ArrayList<>();
        List<Step> after = new ArrayList<>();
        List<String> views = replacing.isEmpty() ? List.of() : views(session);
        // first of all steps, so that its undoing comes when all tables have their names again
        if (!views.isEmpty()) {
            steps.add(new Step("SET @ORDERLY_FERRY = 1", new Deed.ViewsTouched()));
        }
        othersReferences(session, replacing, steps, after);
        for (Arrival arrival : replacing) {
            // names of constraints are the schema's: the old table's go, so that the new one can have them
            steps.addAll(aside(arrival));
        }
        // in a loop of its own: what is undone above names other tables, which have to be back by then
        replacing.forEach(a -> steps.add(rename(a.name(), a.aside())));
        for (Arrival arrival : arrivals) {
            steps.add(rename(arrival.loaded(), arrival.name()));
            steps.addAll(named(arrival));
        }
        for (Arrival arrival : arrivals) {
            for (ForeignKey key : arrival.table().foreignKeys()) {
                String name = key.name().isEmpty() ? arrival.loaded().name() + "_f" + after.size() : key.name();
                after.add(new Step(
                        add(arrival.name(), key.withName(name)) + " NOCHECK",
                        new Deed.ReferenceAdded(arrival.name(), name)));
            }
        }
        steps.addAll(after);
        views.forEach(v -> steps.add(Step.of(v)));
        return steps;
    }

    private Step rename(TableName from, TableName to) {
        return new Step(
                "ALTER TABLE " + dialect.quote(from) + " RENAME TO " + dialect.quote(to.name()),
                new Deed.Renamed(List.of(from), List.of(to)));
    }

    private Step renameConstraint(TableName table, String from, String to) {
        return new Step(constraintName(table, from, to), new Deed.ConstraintRenamed(table, from, to));
    }

    private String constraintName(TableName table, String from, String to) {
        return "ALTER TABLE " + dialect.quote(table) + " RENAME CONSTRAINT " + dialect.quote(from) + " TO "
                + dialect.quote(to);
    }

    private Step renameIndex(TableName table, String from, String to) {
        return new Step(indexName(table, from, to), new Deed.IndexRenamed(table, from, to));
    }

    private String indexName(TableName table, String from, String to) {
        return "ALTER INDEX IF EXISTS " + dialect.quote(new TableName(table.schema(), from)) + " RENAME TO "
                + dialect.quote(new TableName(table.schema(), to));
    }

    /** Takes the names of a table's keys and indexes away from it; its references go. */
    private List<Step> aside(Arrival arrival) {
        TableDefinition old = arrival.there().orElseThrow();
        String head = arrival.aside().name() + "_";
        List<Step> steps = new ArrayList<>();
        old.foreignKeys().stream()
                .filter(k -> !k.name().isEmpty())
                .forEach(k -> steps.add(
                        new Step(dropConstraint(old.name(), k.name()), new Deed.ReferenceDropped(old.name(), k))));
        old.primaryKey()
                .filter(k -> !k.name().isEmpty())
                .ifPresent(k -> steps.add(renameConstraint(old.name(), k.name(), head + "p")));
        int number = 0;
        for (Key key : old.uniqueKeys()) {
            if (!key.name().isEmpty()) {
                steps.add(renameConstraint(old.name(), key.name(), head + "u" + number++));
            }
        }
        for (CheckConstraint check : old.checks()) {
            if (!check.name().isEmpty()) {
                steps.add(renameConstraint(old.name(), check.name(), head + "c" + number++));
            }
        }
        for (IndexDefinition index : old.indexes()) {
            steps.add(renameIndex(old.name(), index.name(), head + "i" + number++));
        }
        return steps;
    }

    private List<Step> named(Arrival arrival) {
        TableDefinition wanted = arrival.table();
        TableDefinition loaded = whileLoaded(arrival);
        List<Step> steps = new ArrayList<>();
        wanted.primaryKey()
                .filter(k -> !k.name().isEmpty())
                .ifPresent(k -> steps.add(renameConstraint(
                        wanted.name(), loaded.primaryKey().orElseThrow().name(), k.name())));
        for (int i = 0; i < wanted.uniqueKeys().size(); i++) {
            if (!wanted.uniqueKeys().get(i).name().isEmpty()) {
                steps.add(renameConstraint(
                        wanted.name(),
                        loaded.uniqueKeys().get(i).name(),
                        wanted.uniqueKeys().get(i).name()));
            }
        }
        for (int i = 0; i < wanted.checks().size(); i++) {
            if (!wanted.checks().get(i).name().isEmpty()) {
                steps.add(renameConstraint(
                        wanted.name(),
                        loaded.checks().get(i).name(),
                        wanted.checks().get(i).name()));
            }
        }
        for (int i = 0; i < wanted.indexes().size(); i++) {
            steps.add(renameIndex(
                    wanted.name(),
                    loaded.indexes().get(i).name(),
                    wanted.indexes().get(i).name()));
        }
        return steps;
    }

    private String add(TableName table, ForeignKey key) {
        return "ALTER TABLE " + dialect.quote(table) + " ADD " + sql.foreignKey(key);
    }

    private String dropConstraint(TableName table, String name) {
        return "ALTER TABLE " + dialect.quote(table) + " DROP CONSTRAINT IF EXISTS " + dialect.quote(name);
    }

    private void othersReferences(Session session, List<Arrival> replacing, List<Step> steps, List<Step> after)
            throws SQLException {
        Set<TableName> replaced = replacing.stream().map(Arrival::name).collect(Collectors.toSet());
        Catalogue catalogue = session.catalogue();
        for (TableName other : catalogue.referrers(replaced)) {
            if (replaced.contains(other)) {
                continue;
            }
            for (ForeignKey key : catalogue.define(other).foreignKeys()) {
                if (replaced.contains(key.target())) {
                    String name = key.name().isEmpty() ? constraintName(session, other, key) : key.name();
                    ForeignKey named = key.withName(name);
                    steps.add(new Step(dropConstraint(other, name), new Deed.ReferenceDropped(other, named)));
                    // checked as it is added: records of the new table may be missing
                    after.add(new Step(add(other, named), new Deed.ReferenceAdded(other, name)));
                }
            }
        }
    }

    /** The name that H2 has given to a reference. */
    private static String constraintName(Session session, TableName table, ForeignKey key) throws SQLException {
        String[] name = {""};
        session.query()
                .each(
                        "SELECT c.CONSTRAINT_NAME FROM INFORMATION_SCHEMA.TABLE_CONSTRAINTS c JOIN"
                                + " INFORMATION_SCHEMA.KEY_COLUMN_USAGE u ON u.CONSTRAINT_SCHEMA = c.CONSTRAINT_SCHEMA"
                                + " AND u.CONSTRAINT_NAME = c.CONSTRAINT_NAME WHERE c.CONSTRAINT_TYPE = 'FOREIGN KEY'"
                                + " AND c.TABLE_NAME = ? AND u.COLUMN_NAME = ? AND u.ORDINAL_POSITION = 1",
                        row -> name[0] = row.getString(1),
                        table.name(),
                        key.columns().get(0));
        return name[0];
    }

    /** Views that are made of tables that are replaced, and views that are made of these. */
    private List<String> views(Session session) throws SQLException {
        List<String> statements = new ArrayList<>();
        session.query()
                .each(
                        "SELECT TABLE_SCHEMA, TABLE_NAME, VIEW_DEFINITION FROM INFORMATION_SCHEMA.VIEWS"
                                + " WHERE TABLE_SCHEMA <> 'INFORMATION_SCHEMA' ORDER BY 1, 2",
                        row -> statements.add("CREATE OR REPLACE FORCE VIEW "
                                + dialect.quote(new TableName(row.getString(1), row.getString(2))) + " AS "
                                + row.getString(3)));
        return statements;
    }

    /** References of tables that refer to each other, or to themselves, hold only when all records are there. */
    @Override
    public List<Step> loosen(Session session, List<Arrival> arrivals) {
        return arrivals.stream()
                .map(a -> new Step(integrity(a.name(), false), new Deed.ChecksOff(a.name())))
                .toList();
    }

    @Override
    public boolean mergesUnheeded() {
        return true;
    }

    private String integrity(TableName table, boolean on) {
        return "ALTER TABLE " + dialect.quote(table) + " SET REFERENTIAL_INTEGRITY " + (on ? "TRUE" : "FALSE");
    }

    @Override
    public List<Deed> leftovers(List<Arrival> arrivals) {
        List<Deed> deeds = new ArrayList<>();
        arrivals.stream().filter(a -> !a.isNewTable()).forEach(a -> deeds.add(new Deed.ChecksOff(a.name())));
        deeds.addAll(Settling.tablesLeft(arrivals));
        return deeds;
    }

    @Override
    public List<String> remedy(Session session, Deed deed) throws SQLException {
        if (deed instanceof Deed.Renamed renamed) {
            return renamedBack(session, renamed);
        } else if (deed instanceof Deed.ConstraintRenamed renamed) {
            return hasConstraint(session, renamed.table(), renamed.to())
                    ? List.of(constraintName(renamed.table(), renamed.to(), renamed.from()))
                    : List.of();
        } else if (deed instanceof Deed.IndexRenamed renamed) {
            return List.of(indexName(renamed.table(), renamed.to(), renamed.from()));
        } else if (deed instanceof Deed.ReferenceAdded added) {
            return hasConstraint(session, added.table(), added.name())
                    ? List.of(dropConstraint(added.table(), added.name()))
                    : List.of();
        } else if (deed instanceof Deed.ReferenceDropped dropped) {
            return hasConstraint(session, dropped.table(), dropped.key().name())
                    ? List.of()
                    : List.of(add(dropped.table(), dropped.key()) + " NOCHECK");
        } else if (deed instanceof Deed.ViewsTouched) {
            return views(session);
        } else if (deed instanceof Deed.ChecksOff off) {
            return session.catalogue().has(off.table()) ? List.of(integrity(off.table(), true)) : List.of();
        }
        return Settling.super.remedy(session, deed);
    }

    private List<String> renamedBack(Session session, Deed.Renamed renamed) throws SQLException {
        TableName from = renamed.from().get(0);
        TableName to = renamed.to().get(0);
        if (renamed.from().size() != 1 || !Settling.isOnTheWay(from, to)) {
            throw Settling.unknown(renamed);
        }
        List<TableName> there = session.catalogue().tables();
        return there.contains(to) && !there.contains(from)
                ? List.of("ALTER TABLE " + dialect.quote(to) + " RENAME TO " + dialect.quote(from.name()))
                : List.of();
    }

    private static boolean hasConstraint(Session session, TableName table, String name) throws SQLException {
        boolean[] found = {false};
        session.query()
                .each(
                        "SELECT 1 FROM INFORMATION_SCHEMA.TABLE_CONSTRAINTS WHERE TABLE_NAME = ? AND CONSTRAINT_NAME = ?"
                                + " AND TABLE_SCHEMA = CASE WHEN ? = '' THEN SCHEMA() ELSE ? END",
                        row -> found[0] = true,
                        table.name(),
                        name,
                        table.schema(),
                        table.schema());
        return found[0];
    }

    /** Texts by their bytes, since a collation may take two spellings for the same; long ones have none. */
    @Override
    public String differ(ColumnDefinition column, String one, String other) {
        return switch (column.type().name()) {
            case CHARACTER, VARCHAR -> "STRINGTOUTF8(" + one + ") IS DISTINCT FROM STRINGTOUTF8(" + other + ")";
            default -> one + " IS DISTINCT FROM " + other;
        };
    }
}
