package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.ledger.TableFacts;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Removal;
import org.orderlyferry.place.TargetPlace;

/**
 * Takes out of a target what is gone at its source. A database does so together with the load. A store of documents, which
 * looks after no references, does it by itself: what has unique values that others may have got by now goes before the load,
 * and all else after it, as does what a database can't take out within a load.
 */
final class Deletions {

    /** Says of a load that it was in already when a catch-up went on. */
    static final String FOUND = "found";

    private static final String FACT = "deleted ";

    private final Path keys;
    private final List<TableName> tables;
    private final RunLedger ledger;

    /**
     * Of a catch-up.
     *
     * @param keys the folder of the keys of what is gone
     * @param tables all tables, by which they are numbered
     */
    Deletions(Path keys, List<TableName> tables, RunLedger ledger) {
        this.keys = keys;
        this.tables = tables;
        this.ledger = ledger;
    }

    /** All of them, for a target that takes them out together with a load. */
    List<Removal> all(TargetPlace target) {
        return tables.stream()
                .filter(t -> DeletedKeys.areThere(keys, tables, t))
                .map(t -> DeletedKeys.removal(keys, tables, target.define(t)))
                .toList();
    }

    /** How many went together with the load, for its facts. */
    static Map<String, String> facts(Map<TableName, Long> gone) {
        Map<String, String> facts = new TreeMap<>();
        gone.forEach((table, rows) -> facts.put(TableFacts.of(FACT, table), Long.toString(rows)));
        return facts;
    }

    /** Before the load, where they can't go with it; how many went is noted, and counts in the end. */
    void makeRoom(TargetPlace target) {
        for (TableName table : tables) {
            if (DeletedKeys.areThere(keys, tables, table) && hasUniqueKeys(target.define(table))) {
                long gone = target.delete(DeletedKeys.removal(keys, tables, target.define(table)));
                if (gone > 0) {
                    ledger.note(Step.LOAD, State.BEGUN, Map.of(TableFacts.of(FACT, table), Long.toString(gone)));
                }
            }
        }
    }

    private static boolean hasUniqueKeys(TableDefinition table) {
        return !table.uniqueKeys().isEmpty() || table.indexes().stream().anyMatch(IndexDefinition::unique);
    }

    /** After the load, what didn't go with it; what refers to others goes first. */
    Map<String, String> rest(TargetPlace target) {
        Map<TableName, Long> gone = noted();
        Optional<LedgerLine> loaded = ledger.last(Step.LOAD, State.DONE);
        boolean found = loaded.filter(l -> !l.fact(FOUND).isEmpty()).isPresent();
        for (TableName table : order()) {
            boolean went = loaded.filter(
                            l -> !l.fact(TableFacts.of(FACT, table)).isEmpty())
                    .isPresent();
            if (!went && DeletedKeys.areThere(keys, tables, table)) {
                Removal removal = DeletedKeys.removal(keys, tables, target.define(table));
                long now = target.delete(removal);
                // one that was killed when all was in had taken them out, and couldn't say so any more
                long rows = found && !gone.containsKey(table) ? DeletedKeys.count(removal) : now;
                gone.merge(table, rows, Long::sum);
            }
        }
        gone.values().removeIf(rows -> rows == 0);
        Map<String, String> facts = facts(gone);
        facts.put(
                "rows",
                Long.toString(gone.values().stream().mapToLong(Long::longValue).sum()));
        return facts;
    }

    /** What went before the load, or with it. */
    private Map<TableName, Long> noted() {
        Map<TableName, Long> noted = new TreeMap<>();
        ledger.lines().stream().filter(l -> l.what() == Step.LOAD).forEach(l -> l.facts()
                .forEach((fact, rows) -> {
                    if (fact.startsWith(FACT)) {
                        noted.merge(TableName.parse(fact.substring(FACT.length())), Long.parseLong(rows), Long::sum);
                    }
                }));
        return noted;
    }

    private List<TableName> order() {
        List<TableName> order = new ArrayList<>(ledger.last(Step.LOAD, State.DONE)
                .map(l -> TableFacts.named(l.fact("tables")))
                .orElse(List.of()));
        if (order.isEmpty()) {
            order.addAll(tables);
        }
        Collections.reverse(order);
        return order;
    }
}
