package org.orderlyferry.databases.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.Arrival;
import org.orderlyferry.databases.DefinitionSql;
import org.orderlyferry.databases.Session;
import org.orderlyferry.databases.Settling;
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
    public List<String> obstacles(Session session, TableDefinition there, TableDefinition comes) throws SQLException {
        List<String> found = new ArrayList<>();
        for (TableName other : session.catalogue().tables()) {
            TableDefinition table = session.catalogue().define(other);
            for (ForeignKey key : table.foreignKeys()) {
                if (!key.target().equals(there.name()) || other.equals(there.name())) {
                    continue;
                }
                for (String target : key.targetColumns()) {
                    String mine =
                            there.column(target).map(c -> c.type().toString()).orElse("");
                    String next =
                            comes.column(target).map(c -> c.type().toString()).orElse("nothing at all");
                    if (!mine.equals(next)) {
                        found.add("table " + there.name() + " can't be replaced: " + other + " refers to its column "
                                + target + ", which is " + mine + " and would become " + next);
                    }
                }
            }
        }
        return found;
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
        session.execute("BEGIN NOT ATOMIC FOR r IN (SELECT " + String.join(", ", selected) + " FROM "
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
                steps.add(new Step(drop(arrival.name(), key), add(arrival.name(), key)));
            }
            triggers(session, arrival, steps, after);
        }
        List<String> there = new ArrayList<>();
        List<String> back = new ArrayList<>();
        for (Arrival arrival : arrivals) {
            String name = dialect.quote(arrival.name());
            if (arrival.there().isPresent()) {
                there.add(name + " TO " + dialect.quote(arrival.aside()));
            }
            there.add(dialect.quote(arrival.loaded()) + " TO " + name);
            back.add(name + " TO " + dialect.quote(arrival.loaded()));
            if (arrival.there().isPresent()) {
                back.add(dialect.quote(arrival.aside()) + " TO " + name);
            }
        }
        steps.add(new Step("RENAME TABLE " + String.join(", ", there), "RENAME TABLE " + String.join(", ", back)));
        Set<String> taken = referenceNames(session);
        arrivals.forEach(a -> a.table().foreignKeys().forEach(k -> taken.add(k.name())));
        for (Arrival arrival : arrivals) {
            for (ForeignKey key : arrival.table().foreignKeys()) {
                ForeignKey named = key.name().isEmpty() ? key.withName(free(arrival.name(), taken)) : key;
                steps.add(new Step(add(arrival.name(), named), dropIfThere(arrival.name(), named)));
            }
        }
        steps.addAll(after);
        return steps;
    }

    private String add(TableName table, ForeignKey key) {
        return "ALTER TABLE " + dialect.quote(table) + " ADD " + sql.foreignKey(key);
    }

    private String drop(TableName table, ForeignKey key) {
        return "ALTER TABLE " + dialect.quote(table) + " DROP FOREIGN KEY " + dialect.quote(key.name());
    }

    private String dropIfThere(TableName table, ForeignKey key) {
        return "ALTER TABLE " + dialect.quote(table) + " DROP FOREIGN KEY IF EXISTS " + dialect.quote(key.name());
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
        List<TableName> replaced = replacing.stream().map(Arrival::name).toList();
        for (TableName other : session.catalogue().tables()) {
            if (replaced.contains(other)) {
                continue;
            }
            for (ForeignKey key : session.catalogue().define(other).foreignKeys()) {
                if (replaced.contains(key.target())) {
                    steps.add(new Step(drop(other, key), add(other, key)));
                    // checked as it is added: records of the new table may be missing
                    after.add(Step.of("SET SESSION foreign_key_checks = 1"));
                    after.add(new Step(add(other, key), dropIfThere(other, key)));
                    after.add(Step.of("SET SESSION foreign_key_checks = 0"));
                }
            }
        }
    }

    private void triggers(Session session, Arrival arrival, List<Step> steps, List<Step> after) throws SQLException {
        List<String> names = new ArrayList<>();
        session.query()
                .each(
                        "SELECT TRIGGER_NAME FROM information_schema.TRIGGERS WHERE EVENT_OBJECT_SCHEMA = DATABASE()"
                                + " AND EVENT_OBJECT_TABLE = ? ORDER BY ACTION_ORDER",
                        row -> names.add(row.getString(1)),
                        arrival.name().name());
        for (String name : names) {
            try (Statement statement = session.connection().createStatement();
                    ResultSet row = statement.executeQuery("SHOW CREATE TRIGGER " + dialect.quote(name))) {
                row.next();
                // a server without users has an empty one here, which it wouldn't take back
                String plain = row.getString(3).replaceFirst("DEFINER=(``|\"\") ", "");
                // its text means what it meant only under the mode that it was made in
                String create = "SET STATEMENT sql_mode = " + DefinitionSql.string(row.getString(2))
                        + " FOR EXECUTE IMMEDIATE " + DefinitionSql.string(plain);
                String drop = "DROP TRIGGER IF EXISTS " + dialect.quote(name);
                steps.add(new Step(drop, create));
                after.add(new Step(create, drop));
            }
        }
    }

    @Override
    public List<String> leftovers(List<Arrival> arrivals) {
        List<String> statements = new ArrayList<>();
        for (Arrival arrival : arrivals) {
            if (!arrival.isNewTable()) {
                statements.add("DROP TABLE IF EXISTS " + dialect.quote(arrival.loaded()));
            } else if (arrival.there().isPresent()) {
                statements.add("DROP TABLE IF EXISTS " + dialect.quote(arrival.aside()));
            }
        }
        return statements;
    }

    /** Texts by their bytes, since a collation may take two spellings for the same. */
    @Override
    public String differ(ColumnDefinition column, String one, String other) {
        return switch (column.type().name()) {
            case CHARACTER, VARCHAR, CLOB, JSON, XML -> "NOT (BINARY " + one + " <=> BINARY " + other + ")";
            default -> "NOT (" + one + " <=> " + other + ")";
        };
    }

    @Override
    public String update(Arrival arrival, String keys, String differ, List<ColumnDefinition> set) {
        return "UPDATE " + dialect.quote(arrival.name()) + " t JOIN " + dialect.quote(arrival.loaded()) + " s ON "
                + keys + " SET "
                + set.stream()
                        .map(c -> "t." + dialect.quote(c.name()) + " = s." + dialect.quote(c.name()))
                        .collect(Collectors.joining(", "))
                + " WHERE " + differ;
    }
}
