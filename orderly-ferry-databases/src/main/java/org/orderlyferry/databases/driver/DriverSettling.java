package org.orderlyferry.databases.driver;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
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
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;

/**
 * How tables take their places by what most systems have: tables are renamed with nothing but their primary key, and get
 * their other rules under their names.
 */
class DriverSettling implements Settling {

    /** What stands behind the name of a rule whose old table has it until the load has ended. */
    private static final String AGAIN = "_2";

    final DriverDialect dialect;
    private final DefinitionSql sql;

    DriverSettling(DriverDialect dialect) {
        this.dialect = dialect;
        this.sql = new DefinitionSql(dialect);
    }

    @Override
    public TableDefinition whileLoaded(Arrival arrival) {
        if (arrival.isNewTable() && dialect.system().startsWith("Firebird")) {
            throw new UsageException(dialect.system() + " can't rename a table, so " + arrival.name()
                    + " can't be made there; make it, and append to it or merge into it");
        }
        TableDefinition table = arrival.table();
        return table.toBuilder()
                .name(arrival.loaded())
                .primaryKey(table.primaryKey()
                        .map(k -> arrival.there().isPresent() ? new Key("", k.columns()) : k)
                        .orElse(null))
                .build();
    }

    /** ISO/IEC 9075-2 has no statement for it. */
    String renaming(TableName from, TableName to) {
        String system = dialect.system();
        if (system.equals("Apache Derby") || system.startsWith("DB2")) {
            return "RENAME TABLE " + dialect.quote(from) + " TO " + dialect.quote(to.name());
        }
        return "ALTER TABLE " + dialect.quote(from) + " RENAME TO " + dialect.quote(to.name());
    }

    private Step rename(TableName from, TableName to) {
        return new Step(renaming(from, to), new Deed.Renamed(List.of(from), List.of(to)));
    }

    @Override
    public List<Step> takePlaces(Session session, List<Arrival> arrivals) throws SQLException {
        List<Arrival> replacing =
                arrivals.stream().filter(a -> a.there().isPresent()).toList();
        mustNotBeReferredTo(session, replacing);
        List<Step> steps = new ArrayList<>();
        for (Arrival arrival : replacing) {
            for (ForeignKey key : references(session, arrival.name())) {
                steps.add(
                        new Step(dropping(arrival.name(), key.name()), new Deed.ReferenceDropped(arrival.name(), key)));
            }
        }
        replacing.forEach(a -> steps.add(rename(a.name(), a.aside())));
        arrivals.forEach(a -> steps.add(rename(a.loaded(), a.name())));
        for (Arrival arrival : arrivals) {
            keys(arrival).forEach(statement -> steps.add(Step.of(statement)));
        }
        int number = 0;
        for (Arrival arrival : arrivals) {
            Set<String> taken = taken(arrival);
            for (CheckConstraint check : arrival.table().checks()) {
                String name = free(named(check.name(), arrival, number++), taken);
                CheckConstraint named = new CheckConstraint(name, check.condition());
                steps.add(rule(arrival, name, sql.add(arrival.table(), sql.check(named))));
            }
            for (ForeignKey key : arrival.table().foreignKeys()) {
                String name = named(key.name(), arrival, number++);
                steps.add(rule(arrival, name, sql.add(arrival.table(), sql.foreignKey(key.withName(name)))));
            }
        }
        return steps;
    }

    /** Unique keys and indexes. */
    private List<String> keys(Arrival arrival) {
        Set<String> taken = taken(arrival);
        TableDefinition table = arrival.table().toBuilder()
                .uniqueKeys(arrival.table().uniqueKeys().stream()
                        .map(k -> new Key(unique(k.name(), arrival, taken), k.columns()))
                        .toList())
                .indexes(arrival.table().indexes().stream()
                        .map(i -> i.withName(free(i.name(), taken)))
                        .toList())
                .checks(List.of())
                .build();
        return keys(table);
    }

    List<String> keys(TableDefinition table) {
        return sql.keysAndIndexes(table);
    }

    private String unique(String name, Arrival arrival, Set<String> taken) {
        boolean told = tellsUniqueKeys() || arrival.there().isEmpty();
        return !told ? "" : name.isEmpty() ? name : free(name, taken);
    }

    /** No driver tells what unique keys of the old table are called: the system finds a name for the new one. */
    boolean tellsUniqueKeys() {
        return false;
    }

    private static Step rule(Arrival arrival, String name, String adding) {
        return new Step(adding, new Deed.ReferenceAdded(arrival.name(), name));
    }

    private static String named(String name, Arrival arrival, int number) {
        return name.isEmpty() ? arrival.loaded().name() + "_r" + number : name;
    }

    private static String free(String name, Set<String> taken) {
        return taken.contains(name) ? name + AGAIN : name;
    }

    /** Names of rules that the table set aside has until it goes; of its references only those that have none went before. */
    private static Set<String> taken(Arrival arrival) {
        Set<String> taken = new HashSet<>();
        arrival.there().ifPresent(old -> {
            old.primaryKey().ifPresent(k -> taken.add(k.name()));
            old.uniqueKeys().forEach(k -> taken.add(k.name()));
            old.checks().forEach(c -> taken.add(c.name()));
            old.indexes().forEach(i -> taken.add(i.name()));
        });
        taken.remove("");
        return taken;
    }

    private void mustNotBeReferredTo(Session session, List<Arrival> replacing) throws SQLException {
        Set<TableName> replaced = replacing.stream().map(Arrival::name).collect(Collectors.toSet());
        Catalogue catalogue = session.catalogue();
        for (TableName other : catalogue.referrers(replaced)) {
            for (ForeignKey key : catalogue.define(other).foreignKeys()) {
                if (replaced.contains(key.target()) && !replaced.contains(other)) {
                    throw new SQLException("table " + key.target() + " can't be replaced: " + other
                            + " refers to it, and it isn't known how " + dialect.system()
                            + " has references turned to another table");
                }
            }
        }
    }

    private List<ForeignKey> references(Session session, TableName table) throws SQLException {
        return new DriverCatalogue(session.connection(), dialect).keys(table).references();
    }

    private String dropping(TableName table, String constraint) {
        return "ALTER TABLE " + dialect.quote(table) + " DROP CONSTRAINT " + dialect.quote(constraint);
    }

    @Override
    public List<Deed> leftovers(List<Arrival> arrivals) {
        return Settling.tablesLeft(arrivals);
    }

    @Override
    public List<String> remedy(Session session, Deed deed) throws SQLException {
        if (deed instanceof Deed.Renamed renamed) {
            TableName from = renamed.from().get(0);
            TableName to = renamed.to().get(0);
            if (renamed.from().size() != 1 || !Settling.isOnTheWay(from, to)) {
                throw Settling.unknown(renamed);
            }
            List<TableName> there = session.catalogue().tables();
            return there.contains(to) && !there.contains(from) ? List.of(renaming(to, from)) : List.of();
        } else if (deed instanceof Deed.ReferenceAdded added) {
            dropIfThere(session, added);
            return List.of();
        } else if (deed instanceof Deed.ReferenceDropped dropped) {
            boolean there = references(session, dropped.table()).stream()
                    .anyMatch(k -> k.name().equals(dropped.key().name()));
            return there
                    ? List.of()
                    : List.of(
                            "ALTER TABLE " + dialect.quote(dropped.table()) + " ADD " + sql.foreignKey(dropped.key()));
        }
        return Settling.super.remedy(session, deed);
    }

    /** No driver tells of checks, so whether one is there is found out by taking it away. */
    private void dropIfThere(Session session, Deed.ReferenceAdded added) throws SQLException {
        if (!session.catalogue().has(added.table())) {
            return;
        }
        session.connection().commit();
        try {
            session.execute(dropping(added.table(), added.name()));
            session.connection().commit();
        } catch (SQLException e) {
            if (dialect.isLost(e) || session.isCancelled()) {
                throw e;
            }
            session.connection().rollback();
        }
    }

    /** Where the system wasn't found to tell, its own equality has to do. */
    @Override
    public String isJust(ColumnDefinition column, String name, String value) {
        return !isUnknown(column)
                        && dialect.trial().differing().containsKey(column.type().name())
                ? Settling.super.isJust(column, name, value)
                : name + " = " + value;
    }

    @Override
    public String differ(ColumnDefinition column, String one, String other) {
        if (isUnknown(column)) {
            return Differing.UNKNOWN;
        }
        String differ = Differing.of(dialect.trial().differing(), column.type().name(), one, other);
        return "(" + differ + " OR " + one + " IS NULL AND " + other + " IS NOT NULL OR " + one + " IS NOT NULL AND "
                + other + " IS NULL)";
    }

    /** Whether it is of a type that may be carried as text alone: whether that has an equality isn't known. */
    private static boolean isUnknown(ColumnDefinition column) {
        return column.type().name().isText()
                && !column.type().isSized()
                && column.type().name() != TypeName.CLOB;
    }
}
