package org.orderlyferry.reconcile;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.orderlyferry.model.NamePattern;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
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
            if (all || isCalled(told.getKey(), table)) {
                if (has(table, told.getValue())) {
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

    /**
     * Refuses keys and columns that no table has: they would be passed over in silence.
     *
     * @throws UsageException if there are such
     */
    void mustBeOf(List<TablePair> pairs, Place source, Place target) {
        if (keys.isEmpty() && rules.isEmpty()) {
            return;
        }
        List<TablePair> read = pairs.stream().filter(p -> p.source() != null).toList();
        List<TableDefinition> tables =
                read.stream().map(p -> source.define(p.source())).toList();
        keys.forEach((pattern, columns) -> mustBeOf(pattern, columns, tables));
        for (ComparisonRule rule : rules) {
            if (rule instanceof ComparisonRule.Without without) {
                boolean known = read.stream().anyMatch(p -> Stream.concat(
                                source.define(p.source()).columnNames().stream(),
                                p.target() == null ? Stream.of() : target.define(p.target()).columnNames().stream())
                        .anyMatch(c -> isNamed(without.column(), p.source(), c)));
                if (!known) {
                    throw new UsageException("no table that is compared has a column " + without.column());
                }
            }
        }
    }

    private void mustBeOf(String pattern, List<String> columns, List<TableDefinition> tables) {
        boolean all = pattern.equals("*");
        if (!all && tables.stream().noneMatch(t -> isCalled(pattern, t))) {
            throw new UsageException("no table that is compared is called " + pattern);
        }
        if (all && tables.stream().noneMatch(t -> has(t, columns))) {
            throw new UsageException(
                    "no table that is compared has all of the key's columns " + String.join(", ", columns));
        }
    }

    private static boolean isCalled(String pattern, TableDefinition table) {
        NamePattern wanted = NamePattern.of(pattern);
        return wanted.matches(table.name().toString())
                || wanted.matches(table.name().name());
    }

    private boolean has(TableDefinition table, List<String> columns) {
        return columns.stream().allMatch(c -> table.column(c).isPresent() && !isWithout(table, c));
    }

    private static boolean isNamed(String said, TableName table, String column) {
        return said.equals(column) || said.equals(table + "." + column);
    }

    /** Whether a column isn't compared. */
    boolean isWithout(TableDefinition table, String column) {
        return rules.stream()
                .filter(ComparisonRule.Without.class::isInstance)
                .map(r -> ((ComparisonRule.Without) r).column())
                .anyMatch(c -> isNamed(c, table.name(), column));
    }
}
