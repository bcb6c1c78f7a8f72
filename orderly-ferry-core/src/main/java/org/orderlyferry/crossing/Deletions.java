package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.orderlyferry.crossing.LedgerLine.State;
import org.orderlyferry.crossing.LedgerLine.Step;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Removal;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;

/**
 * Takes out of a target what is gone at its source. Records that others refer to can only go when those are changed; records
 * whose unique values others have got by now must go before. So tables with unique keys are tried first, and what can't go
 * then goes in the end.
 */
final class Deletions {

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
        gone.forEach((table, rows) -> facts.put(FACT + table.text(), Long.toString(rows)));
        return facts;
    }

    /** Before the load, where they can't go with it; how many went is noted, and counts in the end. */
    void makeRoom(TargetPlace target) {
        for (TableName table : tables) {
            if (DeletedKeys.areThere(keys, tables, table)
                    && hasUniqueKeys(target.define(table))
                    && goesAlone(table, target)) {
                try {
                    long gone = target.delete(DeletedKeys.removal(keys, tables, target.define(table)));
                    if (gone > 0) {
                        ledger.note(Step.LOAD, State.BEGUN, Map.of(FACT + table.text(), Long.toString(gone)));
                    }
                } catch (PlaceException e) {
                    // others refer to them as yet; whatever else it is, the load meets it too
                    continue;
                }
            }
        }
    }

    private static boolean hasUniqueKeys(TableDefinition table) {
        return !table.uniqueKeys().isEmpty() || table.indexes().stream().anyMatch(IndexDefinition::unique);
    }

    /** Whether nothing else goes or changes with a table's records: what refers to them may refer to others after the load. */
    private static boolean goesAlone(TableName table, TargetPlace target) {
        return target.tables().stream()
                .flatMap(t -> target.define(t).foreignKeys().stream())
                .filter(k -> k.target().equals(table))
                .allMatch(
                        k -> k.onDelete() == ReferentialAction.NO_ACTION || k.onDelete() == ReferentialAction.RESTRICT);
    }

    /** After the load, what didn't go with it; what refers to others goes first. */
    Map<String, String> rest(TargetPlace target) {
        Map<String, Long> gone = new TreeMap<>();
        Optional<LedgerLine> loaded = ledger.last(Step.LOAD, State.DONE);
        for (String text : order()) {
            TableName table = TableName.parse(text);
            boolean left = loaded.filter(l -> !l.fact(FACT + text).isEmpty()).isEmpty();
            if (left && DeletedKeys.areThere(keys, tables, table)) {
                Removal removal = DeletedKeys.removal(keys, tables, target.define(table));
                gone.merge(text, target.delete(removal), Long::sum);
            }
        }
        ledger.lines().stream().filter(l -> l.what() == Step.LOAD).forEach(l -> l.facts()
                .forEach((fact, rows) -> {
                    if (fact.startsWith(FACT)) {
                        gone.merge(fact.substring(FACT.length()), Long.parseLong(rows), Long::sum);
                    }
                }));
        gone.values().removeIf(rows -> rows == 0);
        Map<String, String> facts = new TreeMap<>();
        gone.forEach((table, rows) -> facts.put(FACT + table, Long.toString(rows)));
        facts.put(
                "rows",
                Long.toString(gone.values().stream().mapToLong(Long::longValue).sum()));
        return facts;
    }

    private List<String> order() {
        List<String> order = new ArrayList<>(ledger.last(Step.LOAD, State.DONE)
                .map(l -> l.fact("tables").lines().toList())
                .orElse(List.of()));
        if (order.isEmpty()) {
            tables.forEach(t -> order.add(t.text()));
        }
        Collections.reverse(order);
        return order;
    }
}
