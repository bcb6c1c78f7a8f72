package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.TableFacts;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.tally.Tally;

/**
 * The tables of a catch-up that have anything for the target: records that are new or changed, keys of records that are gone,
 * or a counter that is further on. Of thousands of tables it is mostly few, and the others need not be loaded, nor proved to
 * have been.
 */
final class ChangedTables {

    /** The fact of an export that tells how many there are. */
    private static final String NUMBER = "tables to load";

    /** The facts that name them. */
    static final String NAMED = "to load ";

    private ChangedTables() {}

    /** Those whose counters stand further on at the source: it may have given out values of which no record is left. */
    static Set<TableName> counted(Place source, Place target, List<TableName> tables) {
        Set<TableName> counted = new HashSet<>();
        for (TableName table : tables) {
            TableDefinition there = source.define(table);
            if (there.columns().stream().anyMatch(c -> c.identity().isPresent())) {
                TableDefinition here = target.define(table);
                if (there.columns().stream().anyMatch(c -> isFurtherOn(c, here))) {
                    counted.add(table);
                }
            }
        }
        return counted;
    }

    private static boolean isFurtherOn(ColumnDefinition column, TableDefinition here) {
        Optional<Identity> at = here.column(column.name()).flatMap(ColumnDefinition::identity);
        if (column.identity().isEmpty() || at.isEmpty()) {
            return false;
        }
        Identity wanted = column.identity().get();
        return wanted.increment() < 0
                ? wanted.next() < at.get().next()
                : wanted.next() > at.get().next();
    }

    /**
     * What an export is to say of them.
     *
     * @param set what it has written
     * @param deleted the folder of the keys of what is gone
     * @param tables all tables, by which those keys are numbered
     * @param counted those with a counter that is further on
     */
    static Map<String, String> facts(Place set, Path deleted, List<TableName> tables, Set<TableName> counted) {
        Map<String, String> facts = new TreeMap<>();
        for (TableName table : set.tables()) {
            if (counted.contains(table) || hasRecords(set, table) || DeletedKeys.areThere(deleted, tables, table)) {
                facts.put(TableFacts.of(NAMED, table), "");
            }
        }
        facts.put(NUMBER, Integer.toString(facts.size()));
        return facts;
    }

    private static boolean hasRecords(Place set, TableName table) {
        return set.keptTally(table).map(Tally::rows).orElse(1L) > 0;
    }

    /** The set with only these; with all its tables, where the export was cut short before it could say so. */
    static Place of(Place set, Optional<LedgerLine> exported) {
        Map<String, String> facts = exported.map(LedgerLine::facts).orElse(Map.of());
        return facts.containsKey(NUMBER)
                ? new OnlyTables(
                        set,
                        facts.keySet().stream()
                                .filter(f -> f.startsWith(NAMED))
                                .map(f -> TableName.parse(f.substring(NAMED.length())))
                                .toList())
                : set;
    }
}
