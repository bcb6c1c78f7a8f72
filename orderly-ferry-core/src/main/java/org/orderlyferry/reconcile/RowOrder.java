package org.orderlyferry.reconcile;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.model.NamePattern;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.UsageException;

/**
 * What is asked for in a comparison by rows.
 *
 * @param keys columns by which records are told apart, by patterns of tables' names
 * @param rules what doesn't count when values are compared
 * @param listener hears of records that differ
 * @param wanted of how many records it hears, at most
 */
record RowOrder(Map<String, List<String>> keys, List<ComparisonRule> rules, DifferenceListener listener, long wanted) {
    RowOrder {
        keys = new LinkedHashMap<>(keys);
        rules = List.copyOf(rules);
    }

    /** The key that was told for a table. */
    Optional<List<String>> key(TableDefinition table) {
        for (Map.Entry<String, List<String>> told : keys.entrySet()) {
            boolean all = told.getKey().equals("*");
            if (all || NamePattern.of(told.getKey()).matches(table.name().toString())) {
                boolean has =
                        told.getValue().stream().allMatch(c -> table.column(c).isPresent() && !isWithout(table, c));
                if (has) {
                    return Optional.of(told.getValue());
                }
                if (!all) {
                    throw new UsageException("table " + table.name() + " isn't compared by the columns "
                            + String.join(", ", told.getValue()) + ", of which it hasn't all");
                }
            }
        }
        return Optional.empty();
    }

    /** Whether a column isn't compared. */
    boolean isWithout(TableDefinition table, String column) {
        return rules.stream()
                .filter(ComparisonRule.Without.class::isInstance)
                .map(r -> ((ComparisonRule.Without) r).column())
                .anyMatch(c -> c.equals(column) || c.equals(table.name() + "." + column));
    }
}
