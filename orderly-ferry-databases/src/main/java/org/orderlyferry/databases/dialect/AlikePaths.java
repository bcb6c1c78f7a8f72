package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * References of a table that lead to one and the same table, by whatever ways, do the same when a record goes, which isn't SET
 * NULL; one that leads around to its own table by way of others refuses. Whether the ways between would have records go as well
 * isn't asked: systems differ in what they count, and refuse with less.
 */
final class AlikePaths implements ReferencePaths.Paths {

    private final Function<TableName, Optional<TableDefinition>> others;
    private final Map<TableName, List<ForeignKey>> keys = new HashMap<>();
    private final Map<TableName, Set<TableName>> above = new HashMap<>();

    AlikePaths(Function<TableName, Optional<TableDefinition>> others) {
        this.others = others;
    }

    @Override
    public void comes(TableName table, List<ForeignKey> references) {
        keys.put(table, references);
    }

    @Override
    public boolean takes(TableName table, ForeignKey key) {
        if (key.onDelete() == ReferentialAction.NO_ACTION) {
            return true;
        }
        List<ForeignKey> together = together(table, key);
        boolean alike = together.size() == 1
                || key.onDelete() != ReferentialAction.SET_NULL
                        && together.stream().allMatch(k -> k.onDelete() == key.onDelete());
        return alike && together.stream().noneMatch(k -> isAround(table, k));
    }

    @Override
    public void add(TableName table, ForeignKey key) {
        // all are known from the beginning
    }

    private boolean isAround(TableName table, ForeignKey key) {
        return !key.target().equals(table) && above(key.target()).contains(table);
    }

    /** A reference, and those of its table that lead to where it leads, one by way of another. */
    private List<ForeignKey> together(TableName table, ForeignKey key) {
        List<ForeignKey> together = new ArrayList<>(List.of(key));
        List<ForeignKey> rest = new ArrayList<>(keys.get(table));
        rest.remove(key);
        for (int i = 0; i < together.size(); i++) {
            Set<TableName> leads = above(together.get(i).target());
            List<ForeignKey> joined = rest.stream()
                    .filter(k -> !Collections.disjoint(leads, above(k.target())))
                    .collect(Collectors.toCollection(ArrayList::new));
            together.addAll(joined);
            rest.removeAll(joined);
        }
        return together;
    }

    /** A table, and all that it refers to by way of others. */
    private Set<TableName> above(TableName table) {
        Set<TableName> known = above.get(table);
        if (known != null) {
            return known;
        }
        Set<TableName> all = new HashSet<>();
        List<TableName> open = new ArrayList<>(List.of(table));
        while (!open.isEmpty()) {
            TableName one = open.remove(open.size() - 1);
            if (all.add(one)) {
                keys(one).forEach(k -> open.add(k.target()));
            }
        }
        above.put(table, all);
        return all;
    }

    private List<ForeignKey> keys(TableName table) {
        // of one that is there already, what it has
        return keys.computeIfAbsent(
                table, t -> others.apply(t).map(TableDefinition::foreignKeys).orElse(List.of()));
    }
}
