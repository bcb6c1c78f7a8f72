package org.orderlyferry.databases.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.ReferenceFit;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * How tables take their places in MariaDB: all are renamed in one statement. Views and grants go by a table's name, and
 * stay; references of other tables and triggers are taken off and put back.
 */
final class MariaSettling implements Settling {

    /** What a name of 64 characters leaves room for beside an ending. */
    private static final int LONGEST_HEAD = 56;

    private final MariaDialect dialect;
    private final DefinitionSql sql;

    MariaSettling(MariaDialect dialect) {
        this.dialect = dialect;
        this.sql = new DefinitionSql(dialect);
    }

    /** A reference needs the same type at both of its ends, so a type that others refer to can't change. */
    @Override
    public Optional<String> withoutTransactions(Session session, TableName there) throws SQLException {
        return session.value("SELECT t.ENGINE FROM information_schema.TABLES t JOIN information_schema.ENGINES e"
                        + " ON e.ENGINE = t.ENGINE WHERE t.TABLE_SCHEMA = DATABASE() AND t.TABLE_NAME = "
                        + DefinitionSql.string(there.name()) + " AND COALESCE(e.TRANSACTIONS, 'NO') <> 'YES'")
                .map(
                        engine -> "table " + there + " is kept by the engine " + engine
                                + ", which can't take back what it has begun; ALTER TABLE … ENGINE = InnoDB makes it one that can");
    }

    @Override
    public boolean canStandFor(ColumnDefinition there, ColumnDefinition comes) {
        return ReferenceFit.isSame(there, comes) || ReferenceFit.isSame(made(there), made(comes));
    }

    /** A column by the type that it would be made with: one that is told in other words. */
    private ColumnDefinition made(ColumnDefinition column) {
        return column.enumeration().isPresent() || column.sourceType().contains("unsigned")
                ? column
                : column.toBuilder()
                        .sourceType(dialect.types().own(column.type()))
                        .build();
    }

    /**
     * Where a trigger comes before each insert, MariaDB (11.4 at least) takes the values of INSERT … SELECT for nulls
     * and refuses them, but not those of INSERT … VALUES; so the server runs through the records.
     */
    @Override
    public long insert(Session session, Arrival arrival, List<String> columns, String where) throws SQLException {
        boolean triggered = session.value("SELECT 1 FROM information_schema.TRIGGERS WHERE EVENT_OBJECT_SCHEMA ="
                        + " DATABASE() AND ACTION_TIMING = 'BEFORE' AND EVENT_MANIPULATION = 'INSERT'"
                        + " AND EVENT_OBJECT_TABLE = "
                        + DefinitionSql.string(arrival.name().name()))
                .isPresent();
        if (!triggered) {
            return Settling.super.insert(session, arrival, columns, where);
        }
        List<String> selected = new ArrayList<>();
        List<String> values = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            selected.add("s." + dialect.quote(columns.get(i)) + " AS c" + i);
            values.add("r.c" + i);
        }
        session.execute("SET @orderly_ferry = 0");
        session.block("BEGIN NOT ATOMIC FOR r IN (SELECT " + String.join(", ", selected) + " FROM "
                + dialect.quote(arrival.loaded()) + " s" + where + ") DO INSERT INTO " + dialect.quote(arrival.name())
                + " (" + sql.names(columns) + ") VALUES (" + String.join(", ", values)
                + "); SET @orderly_ferry = @orderly_ferry + 1; END FOR; END");
        return Long.parseLong(session.value("SELECT @orderly_ferry").orElse("0"));
    }

    @Override
    public TableDefinition whileLoaded(Arrival arrival) {
        return arrival.table().toBuilder().name(arrival.loaded()).build();
    }

    @Override
    public List<Step> takePlaces(Session session, List<Arrival> arrivals) throws SQLException {
        if (arrivals.isEmpty()) {
            return List.of();
        }
        List<Arrival> replacing =
                arrivals.stream().filter(a -> a.there().isPresent()).toList();
        List<Step> steps = new ArrayList<>();
        List<Step> after = new ArrayList<>();
        if (!replacing.isEmpty()) {
            othersReferences(session, replacing, steps, after);
        }
        for (Arrival arrival : replacing) {
            // names of references are the database's: the old table's go, so that the new one can have them
            for (ForeignKey key : arrival.there().orElseThrow().foreignKeys()) {
                steps.add(new Step(drop(arrival.name(), key), new Deed.ReferenceDropped(arrival.name(), key)));
            }
            after.addAll(new MovedTriggers(dialect, session).steps(arrival));
        }
        List<TableName> from = new ArrayList<>();
        List<TableName> to = new ArrayList<>();
        for (Arrival arrival : arrivals) {
            if (arrival.there().isPresent()) {
                from.add(arrival.name());
                to.add(arrival.aside());
            }
            from.add(arrival.loaded());
            to.add(arrival.name());
        }
        steps.add(new Step(rename(from, to), new Deed.Renamed(from, to)));
        Set<String> taken = referenceNames(session);
        arrivals.forEach(a -> a.table().foreignKeys().forEach(k -> taken.add(k.name())));
        for (Arrival arrival : arrivals) {
            for (ForeignKey key : arrival.table().foreignKeys()) {
                ForeignKey named = key.name().isEmpty() ? key.withName(free(arrival.name(), taken)) : key;
                steps.add(new Step(add(arrival.name(), named), new Deed.ReferenceAdded(arrival.name(), named.name())));
            }
        }
        steps.addAll(after);
        return steps;
    }

    /** One statement, in which each table gets its name after the one before it. */
    private String rename(List<TableName> from, List<TableName> to) {
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < from.size(); i++) {
            parts.add(dialect.quote(from.get(i)) + " TO " + dialect.quote(to.get(i)));
        }
        return "RENAME TABLE " + String.join(", ", parts);
    }

    private String add(TableName table, ForeignKey key) {
        return "ALTER TABLE " + dialect.quote(table) + " ADD " + sql.foreignKey(key);
    }

    private String drop(TableName table, ForeignKey key) {
        return "ALTER TABLE " + dialect.quote(table) + " DROP FOREIGN KEY " + dialect.quote(key.name());
    }

    private static Set<String> referenceNames(Session session) throws SQLException {
        Set<String> names = new HashSet<>();
        session.query()
                .each(
                        "SELECT CONSTRAINT_NAME FROM information_schema.REFERENTIAL_CONSTRAINTS WHERE CONSTRAINT_SCHEMA ="
                                + " DATABASE()",
                        row -> names.add(row.getString(1)));
        return names;
    }

    /** A name for a reference that has none; the one that MariaDB would make up may be too long for it. */
    private static String free(TableName table, Set<String> taken) {
        int[] points = table.name().codePoints().limit(LONGEST_HEAD).toArray();
        String head = new String(points, 0, points.length);
        int number = 1;
        while (!taken.add(head + "_fk" + number)) {
            number++;
        }
        return head + "_fk" + number;
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
                    steps.add(new Step(drop(other, key), new Deed.ReferenceDropped(other, key)));
                    // checked as it is added: records of the new table may be missing
                    after.add(Step.of("SET SESSION foreign_key_checks = 1"));
                    after.add(new Step(add(other, key), new Deed.ReferenceAdded(other, key.name())));
                    after.add(Step.of("SET SESSION foreign_key_checks = 0"));
                }
            }
        }
    }

    @Override
    public List<Deed> leftovers(List<Arrival> arrivals) {
        return Settling.tablesLeft(arrivals);
    }

    @Override
    public List<String> remedy(Session session, Deed deed) throws SQLException {
        if (deed instanceof Deed.Renamed renamed) {
            return renamedBack(session, renamed);
        } else if (deed instanceof Deed.ReferenceAdded added) {
            return hasReference(session, added.table(), added.name())
                    ? List.of("ALTER TABLE " + dialect.quote(added.table()) + " DROP FOREIGN KEY "
                            + dialect.quote(added.name()))
                    : List.of();
        } else if (deed instanceof Deed.ReferenceDropped dropped) {
            return hasReference(session, dropped.table(), dropped.key().name())
                    ? List.of()
                    : List.of(add(dropped.table(), dropped.key()));
        } else if (deed instanceof Deed.TriggerMoved moved) {
            return new MovedTriggers(dialect, session).back(moved);
        }
        return Settling.super.remedy(session, deed);
    }

    private List<String> renamedBack(Session session, Deed.Renamed renamed) throws SQLException {
        boolean ours = !renamed.from().isEmpty()
                && renamed.from().size() == renamed.to().size();
        for (int i = 0; ours && i < renamed.from().size(); i++) {
            ours = Settling.isOnTheWay(renamed.from().get(i), renamed.to().get(i));
        }
        if (!ours) {
            throw Settling.unknown(renamed);
        }
        TableName last = renamed.from().get(renamed.from().size() - 1);
        if (session.catalogue().has(last)) {
            return List.of();
        }
        List<TableName> from = new ArrayList<>(renamed.to());
        List<TableName> to = new ArrayList<>(renamed.from());
        Collections.reverse(from);
        Collections.reverse(to);
        return List.of(rename(from, to));
    }

    private static boolean hasReference(Session session, TableName table, String name) throws SQLException {
        boolean[] found = {false};
        session.query()
                .each(
                        "SELECT 1 FROM information_schema.REFERENTIAL_CONSTRAINTS WHERE CONSTRAINT_SCHEMA = DATABASE()"
                                + " AND TABLE_NAME = ? AND CONSTRAINT_NAME = ?",
                        row -> found[0] = true,
                        table.name(),
                        name);
        return found[0];
    }

    /** In one character set, whatever a column's is. */
    private static String bytes(String text) {
        return "BINARY CONVERT(" + text + " USING utf8mb4)";
    }

    /** Texts by their bytes, since a collation may take two spellings for the same. */
    @Override
    public String differ(ColumnDefinition column, String one, String other) {
        return switch (column.type().name()) {
            case CHARACTER, VARCHAR, CLOB, JSON, XML -> "NOT (" + bytes(one) + " <=> " + bytes(other) + ")";
            // the two zeros are equal
            case REAL, DOUBLE ->
                "(NOT (" + one + " <=> " + other + ") OR " + one + " = 0 AND CAST(" + one + " AS CHAR) <> CAST(" + other
                        + " AS CHAR))";
            default -> "NOT (" + one + " <=> " + other + ")";
        };
    }

    @Override
    public String update(Session session, Arrival arrival, String keys, String differ, List<ColumnDefinition> set) {
        return "UPDATE " + dialect.quote(arrival.name()) + " t JOIN " + dialect.quote(arrival.loaded()) + " s ON "
                + keys + " SET "
                + set.stream()
                        .map(c -> "t." + dialect.quote(c.name()) + " = s." + dialect.quote(c.name()))
                        .collect(Collectors.joining(", "))
                + " WHERE " + differ;
    }

    /** Sessions that load don't have the server look at references. */
    @Override
    public boolean mergesUnheeded() {
        return true;
    }

    @Override
    public boolean heedsWithin() {
        return true;
    }

    /** Nobody looks, and so nothing has to be taken away. */
    @Override
    public Optional<List<SetAside>> setAside(Session session, Set<TableName> to) {
        return Optional.of(List.of());
    }

    @Override
    public void heed(Session session, boolean on) throws SQLException {
        session.execute("SET SESSION foreign_key_checks = " + (on ? 1 : 0));
    }
}
