package org.orderlyferry.crossing;

import java.math.BigDecimal;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.ledger.TableFacts;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** How far the columns that grow with every change had come when a set was made. */
final class GrownValues {

    private static final String FACT = "grown ";

    private GrownValues() {}

    /** The highest value of each such column in a set, as facts. A set without records says what the one before said. */
    static Map<String, String> facts(Crossing crossing, Place set, Map<String, String> before) {
        Map<String, String> facts = new TreeMap<>();
        for (CrossingTable table : crossing.tables()) {
            Optional<String> column = table.growsBy().isEmpty() ? Optional.empty() : table.atTarget(table.growsBy());
            if (column.isPresent() && set.tables().contains(table.to())) {
                String fact = TableFacts.of(FACT, table.to());
                String last = highest(set, set.define(table.to()), column.get());
                String either = last.isEmpty() ? before.getOrDefault(fact, "") : last;
                if (!either.isEmpty()) {
                    facts.put(fact, either);
                }
            }
        }
        return facts;
    }

    private static String highest(Place set, TableDefinition table, String column) {
        boolean number = isNumber(table, column);
        String highest = "";
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = set.read(new Slice(table.name(), List.of(column)))) {
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    if (!batch.isNull(row, 0)) {
                        String value = batch.text(row, 0);
                        highest = highest.isEmpty() || compare(value, highest, number) > 0 ? value : highest;
                    }
                }
            }
        }
        return highest;
    }

    private static int compare(String one, String other, boolean number) {
        return number
                ? new BigDecimal(one).compareTo(new BigDecimal(other))
                // a moment with a fraction comes behind the one without
                : one.replace("Z", "").compareTo(other.replace("Z", ""));
    }

    /**
     * What the last runs say, the newest of each table. Where none says anything, since the crossing named no column then,
     * their sets tell.
     */
    static Map<String, String> known(Crossing crossing, List<RunFolder> runs) {
        Map<String, String> known = new TreeMap<>();
        List<RunFolder> exported = new ArrayList<>();
        for (RunFolder run : runs) {
            RunLedger ledger = RunLedger.read(run.path());
            if (ledger.has(Step.RUN, State.GIVEN_UP) || ledger.has(Step.UNDO, State.DONE)) {
                // what it has read never came to the target, or isn't there any more
                continue;
            }
            Optional<LedgerLine> done = ledger.last(Step.EXPORT, State.DONE);
            done.ifPresent(line -> {
                exported.add(run);
                line.facts().forEach((k, v) -> {
                    if (k.startsWith(FACT)) {
                        known.put(k, v);
                    }
                });
            });
        }
        for (CrossingTable table : crossing.tables()) {
            if (!table.growsBy().isEmpty() && !known.containsKey(TableFacts.of(FACT, table.to()))) {
                ofSets(table, exported).ifPresent(v -> known.put(TableFacts.of(FACT, table.to()), v));
            }
        }
        return known;
    }

    private static Optional<String> ofSets(CrossingTable table, List<RunFolder> runs) {
        Optional<String> column = table.atTarget(table.growsBy());
        String highest = "";
        for (RunFolder run : runs) {
            if (column.isEmpty() || !Files.isDirectory(run.set())) {
                continue;
            }
            try (Place set = Places.open(run.set())) {
                if (set.tables().contains(table.to())
                        && set.define(table.to()).column(column.get()).isPresent()) {
                    TableDefinition definition = set.define(table.to());
                    String one = highest(set, definition, column.get());
                    boolean number = isNumber(definition, column.get());
                    highest = highest.isEmpty() || !one.isEmpty() && compare(one, highest, number) > 0 ? one : highest;
                }
            }
        }
        return highest.isEmpty() ? Optional.empty() : Optional.of(highest);
    }

    private static boolean isNumber(TableDefinition table, String column) {
        return table.column(column).orElseThrow().type().name().isExactNumber();
    }

    /** How far a table's column had come; empty where nobody knows. */
    static Optional<String> of(Map<String, String> known, CrossingTable table) {
        return Optional.ofNullable(known.get(TableFacts.of(FACT, table.to())));
    }
}
