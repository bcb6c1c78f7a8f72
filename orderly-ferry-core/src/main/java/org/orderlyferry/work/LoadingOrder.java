package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** The order in which references ask tables to be loaded: a table after those that it refers to. */
final class LoadingOrder {

    private LoadingOrder() {}

    /**
     * Orders tables. Where they refer to each other in a circle, the one that waits for the fewest others goes first;
     * references are added after the records, so any order inside a circle works.
     */
    static List<TableDefinition> of(List<TableDefinition> tables) {
        Map<TableName, TableDefinition> waiting = new LinkedHashMap<>();
        tables.forEach(t -> waiting.put(t.name(), t));
        List<TableDefinition> ordered = new ArrayList<>();
        while (!waiting.isEmpty()) {
            TableDefinition next = null;
            long fewest = Long.MAX_VALUE;
            for (TableDefinition table : waiting.values()) {
                long others = table.foreignKeys().stream()
                        .map(ForeignKey::target)
                        .filter(t -> !t.equals(table.name()) && waiting.containsKey(t))
                        .distinct()
                        .count();
                if (others < fewest) {
                    next = table;
                    fewest = others;
                }
            }
            waiting.remove(next.name());
            ordered.add(next);
        }
        return ordered;
    }
}
