package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * Tries whether a target takes the definitions of new tables: length of keys and rows, expressions, names. Where
 * definitions are part of transactions, all of them are made and rolled back; elsewhere each table is made as a temporary
 * one, which nobody else sees and which has no references.
 */
final class DefinitionTrial {

    private final Session session;
    private final Writing writing;
    private final LoadPlan plan;

    DefinitionTrial(Session session, LoadPlan plan) {
        this.session = session;
        this.writing = session.dialect().writing();
        this.plan = plan;
    }

    /** Does it; tells how many tables would be refused. */
    int run(LoadNotes notes) {
        if (writing.temporaryTable().isPresent()) {
            return temporarily(writing.temporaryTable().get(), notes);
        }
        boolean forgotten = session.work("the definitions can't be tried", () -> writing.forgetsTrials(session));
        if (!forgotten) {
            if (!newTables().isEmpty()) {
                notes.finding(
                        FindingCode.DEFINITION_UNTRIED,
                        "whether the definitions of new tables would be taken wasn't tried: "
                                + session.dialect().system() + " would keep what was");
            }
            return 0;
        }
        return andBack(notes);
    }

    private List<Arrival> newTables() {
        return plan.arrivals().stream().filter(Arrival::isNewTable).toList();
    }

    private TableDefinition trial(Arrival arrival) {
        // a name of a load's own, so that it can't be taken
        TableName name =
                new TableName(arrival.loaded().schema(), arrival.loaded().name());
        TableDefinition table =
                writing.settling().whileLoaded(arrival).toBuilder().name(name).build();
        return writing.isOneTransaction() ? withoutTakenNames(table, arrival) : table;
    }

    /** There the old table goes before the new one gets its indexes, and with it go the names of its own. */
    private static TableDefinition withoutTakenNames(TableDefinition table, Arrival arrival) {
        Set<String> taken = arrival.there().stream()
                .flatMap(t -> t.indexes().stream())
                .map(IndexDefinition::name)
                .collect(Collectors.toSet());
        return table.toBuilder()
                .indexes(table.indexes().stream()
                        .map(i -> taken.contains(i.name()) ? i.withName(table.name() + "_" + i.name()) : i)
                        .toList())
                .build();
    }

    private int andBack(LoadNotes notes) {
        int refused = 0;
        Map<TableName, Arrival> made = new LinkedHashMap<>();
        try {
            for (Arrival arrival : newTables()) {
                if (isTaken(arrival, notes, () -> make(trial(arrival)))) {
                    made.put(arrival.name(), arrival);
                } else {
                    refused++;
                }
            }
            for (Arrival arrival : made.values()) {
                if (!isTaken(arrival, notes, () -> all(writing.referenceStatements(amongThese(arrival, made))))) {
                    refused++;
                }
            }
        } finally {
            session.rollback();
        }
        return refused;
    }

    /** What is tried of one table. */
    private interface Trial {
        void run() throws SQLException;
    }

    private boolean isTaken(Arrival arrival, LoadNotes notes, Trial trial) {
        return session.work("the definitions can't be tried", () -> {
            Savepoint before = session.connection().setSavepoint();
            try {
                trial.run();
                return true;
            } catch (SQLException e) {
                session.connection().rollback(before);
                told(arrival, e, notes);
                return false;
            }
        });
    }

    private void make(TableDefinition made) throws SQLException {
        for (Settling.Step type : writing.typeSteps(session, made)) {
            session.execute(type.sql());
        }
        all(writing.createStatements(made));
        all(writing.keyStatements(made));
    }

    /** References among tables that come; what refers to one that stays is looked at by rule, so that nobody has to wait. */
    private TableDefinition amongThese(Arrival arrival, Map<TableName, Arrival> made) {
        return trial(arrival).toBuilder()
                .foreignKeys(arrival.table().foreignKeys().stream()
                        .filter(k -> made.containsKey(k.target()))
                        .map(k -> k.withTarget(made.get(k.target()).loaded()))
                        .toList())
                .build();
    }

    private int temporarily(String words, LoadNotes notes) {
        int refused = 0;
        for (Arrival arrival : newTables()) {
            TableDefinition made = trial(arrival).toBuilder()
                    .name(TableName.of(arrival.loaded().name()))
                    .build();
            boolean there = false;
            try {
                List<String> statements = writing.createStatements(made);
                session.execute(statements.get(0).replaceFirst("^CREATE TABLE", words));
                there = true;
                all(writing.keyStatements(made));
            } catch (SQLException e) {
                refused++;
                told(arrival, e, notes);
            } finally {
                if (there) {
                    dropped(made.name());
                }
            }
        }
        return refused;
    }

    private void dropped(TableName name) {
        session.work("a temporary table can't be removed", () -> {
            session.execute(writing.dropTemporary(session.dialect().quote(name)));
            return null;
        });
    }

    private void all(List<String> statements) throws SQLException {
        for (String sql : statements) {
            session.execute(sql);
        }
    }

    private void told(Arrival arrival, SQLException e, LoadNotes notes) {
        notes.finding(
                FindingCode.DEFINITION_REFUSED,
                arrival.name(),
                "",
                "its definition would be refused: " + plan.plain(String.valueOf(e.getMessage())));
    }
}
