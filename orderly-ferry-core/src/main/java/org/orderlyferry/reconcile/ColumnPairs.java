package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.tally.ComparisonForm;

/** The columns of both sides that have each other's name. */
record ColumnPairs(
        List<String> sourceNames,
        List<String> targetNames,
        List<ComparisonForm> forms,
        List<String> onlyAtSource,
        List<String> onlyAtTarget,
        List<String> leftOut) {

    /** What columns of the source are called at the target. */
    List<String> atTarget(List<String> columns) {
        return columns.stream()
                .map(c -> targetNames.get(sourceNames.indexOf(c)))
                .toList();
    }

    static ColumnPairs of(TableDefinition source, TableDefinition named, TableDefinition target) {
        return of(source, named, target, c -> false);
    }

    /**
     * Pairs columns.
     *
     * @param unwanted which of the source's columns aren't compared
     */
    static ColumnPairs of(
            TableDefinition source, TableDefinition named, TableDefinition target, Predicate<String> unwanted) {
        List<String> leftOut = new ArrayList<>();
        Set<String> leftOutThere = new HashSet<>();
        List<String> sourceNames = new ArrayList<>();
        List<String> targetNames = new ArrayList<>();
        List<ComparisonForm> forms = new ArrayList<>();
        List<String> onlyAtSource = new ArrayList<>();
        for (int i = 0; i < source.columns().size(); i++) {
            ColumnDefinition column = source.columns().get(i);
            ColumnDefinition other = target.column(named.columns().get(i).name())
                    .or(() -> target.columns().stream()
                            .filter(c -> c.name().equalsIgnoreCase(column.name()))
                            .findFirst())
                    .orElse(null);
            if (unwanted.test(column.name())) {
                leftOut.add(column.name());
                if (other != null) {
                    leftOutThere.add(other.name());
                }
            } else if (other == null || targetNames.contains(other.name())) {
                onlyAtSource.add(column.name());
            } else {
                sourceNames.add(column.name());
                targetNames.add(other.name());
                forms.add(ComparisonForm.between(column.type(), other.type()));
            }
        }
        List<String> others = target.columnNames().stream()
                .filter(n -> !targetNames.contains(n) && !leftOutThere.contains(n))
                .toList();
        // a column that only the target has may be left out as well
        others.stream().filter(unwanted).forEach(leftOut::add);
        List<String> onlyAtTarget = others.stream().filter(unwanted.negate()).toList();
        return new ColumnPairs(sourceNames, targetNames, forms, onlyAtSource, onlyAtTarget, leftOut);
    }

    boolean areComplete() {
        return onlyAtSource.isEmpty() && onlyAtTarget.isEmpty();
    }
}
