package org.orderlyferry.databases.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.TableName;

/**
 * Tables that were replaced, in schemas of ours: a table goes there with its indexes, counters and triggers, all of them under the
 * names that they have, and comes back so.
 */
final class KeptSchemas {

    private static final String SAVEPOINT = "orderly_ferry_may_go";

    private KeptSchemas() {}

    /** Moves a table into a schema. */
    static String move(PostgresDialect dialect, TableName table, String schema) {
        return "ALTER TABLE " + dialect.quote(table) + " SET SCHEMA " + dialect.quote(schema);
    }

    /**
     * Statements that fail where something else depends on tables that are kept, so that it would go on using them, and they couldn't be
     * dropped.
     */
    static List<String> mayGo(PostgresDialect dialect, List<TableName> kept) {
        return List.of(
                "SAVEPOINT " + SAVEPOINT,
                drop(dialect, kept),
                "ROLLBACK TO SAVEPOINT " + SAVEPOINT,
                "RELEASE SAVEPOINT " + SAVEPOINT);
    }

    private static String drop(PostgresDialect dialect, List<TableName> tables) {
        return "DROP TABLE " + tables.stream().map(dialect::quote).collect(Collectors.joining(", "));
    }

    /** Why tables can't be kept: who loads makes no schemas, or a reference couldn't be made again as it was. */
    static Optional<String> whyNot(Session session, List<TableName> tables) throws SQLException {
        if (!session.value("SELECT has_database_privilege(current_database(), 'CREATE')")
                .equals(Optional.of("t"))) {
            return Optional.of("the user may make no schema in " + session.address() + ", in which they would be kept");
        }
        for (TableName table : tables) {
            Optional<String> unusual = session.value("SELECT k.conname FROM pg_constraint k WHERE k.contype = 'f' AND"
                    + " k.conparentid = 0 AND k.conrelid = "
                    + PostgresDialect.regclass(session.dialect(), table) + " AND NOT (" + UnusualRules.HOLDS
                    + "AND (k.confmatchtype <> 'f' OR cardinality(k.conkey) = 1)"
                    + " AND to_jsonb(k) ->> 'confdelsetcols' IS NULL) ORDER BY 1");
            if (unusual.isPresent()) {
                return Optional.of("the reference " + table + "." + unusual.get()
                        + " says more than a definition does, and couldn't be made again as it is");
            }
        }
        return Optional.empty();
    }

    /**
     * What takes the places of tables that come back leaves by the same way, into schemas that go with it: so no two things have the same
     * name in between.
     */
    static List<String> bringBack(Session session, PostgresDialect dialect, List<Arrival> back, List<TableName> going)
            throws SQLException {
        String own = session.value("SELECT current_schema()").orElse("");
        List<Arrival> replacing =
                back.stream().filter(a -> a.there().isPresent()).toList();
        List<TableName> leaving =
                new ArrayList<>(replacing.stream().map(Arrival::name).toList());
        leaving.addAll(going);
        Dependents dependents = new Dependents(session, dialect, leaving);
        for (Arrival arrival : replacing) {
            dependents.back(arrival.name());
        }
        List<String> steps = new ArrayList<>(dependents.before());
        Set<String> schemas = new LinkedHashSet<>();
        List<TableName> gone = new ArrayList<>(going);
        for (Arrival arrival : replacing) {
            String schema = arrival.loaded().schema() + "g";
            if (schemas.add(schema)) {
                steps.add("CREATE SCHEMA " + dialect.quote(schema));
            }
            steps.add(move(dialect, arrival.name(), schema));
            gone.add(new TableName(schema, arrival.name().name()));
        }
        for (Arrival arrival : back) {
            String schema = arrival.name().schema();
            steps.add(move(dialect, arrival.loaded(), schema.isEmpty() ? own : schema));
        }
        steps.addAll(dependents.views());
        if (!gone.isEmpty()) {
            steps.add(drop(dialect, gone));
        }
        schemas.forEach(schema -> steps.add("DROP SCHEMA " + dialect.quote(schema)));
        steps.addAll(dependents.after());
        return steps;
    }
}
