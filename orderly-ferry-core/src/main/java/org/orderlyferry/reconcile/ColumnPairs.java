package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.tally.ComparisonForm;

/** The columns of both sides that have each other's name. */
record ColumnPairs(
        List<String> sourceNames,
        List<String> targetNames,
        List<ComparisonForm> forms,
        List<String> onlyAtSource,
        List<String> onlyAtTarget) {

    static ColumnPairs of(TableDefinition source, TableDefinition named, TableDefinition target) {
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
            if (other == null || targetNames.contains(other.name())) {
                onlyAtSource.add(column.name());
            } else {
                sourceNames.add(column.name());
                targetNames.add(other.name());
                forms.add(ComparisonForm.between(column.type(), other.type()));
            }
        }
        List<String> onlyAtTarget = target.columnNames().stream()
                .filter(n -> !targetNames.contains(n))
                .toList();
        return new ColumnPairs(sourceNames, targetNames, forms, onlyAtSource, onlyAtTarget);
    }

    boolean areComplete() {
        return onlyAtSource.isEmpty() && onlyAtTarget.isEmpty();
    }
}
