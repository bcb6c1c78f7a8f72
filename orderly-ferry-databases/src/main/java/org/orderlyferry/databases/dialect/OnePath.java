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
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** A table's records follow those of another one by one way at most, whether they go, are changed or become null. */
final class OnePath implements ReferencePaths.Paths {

    private final Function<TableName, Optional<TableDefinition>> others;
    /** Whom a table's records follow, by whatever way, itself among them. */
    private final Map<TableName, Set<TableName>> followed = new HashMap<>();

    private final Map<TableName, List<TableName>> followers = new HashMap<>();

    OnePath(Function<TableName, Optional<TableDefinition>> others) {
        this.others = others;
    }

    @Override
    public void comes(TableName table, List<ForeignKey> keys) {
        followed.computeIfAbsent(table, t -> new HashSet<>(Set.of(t)));
    }

    @Override
    public boolean takes(TableName table, ForeignKey key) {
        if (!isFollowing(key)) {
            return true;
        }
        Set<TableName> above = followed(key.target());
        return below(table).stream().allMatch(t -> Collections.disjoint(above, followed(t)));
    }

    @Override
    public void add(TableName table, ForeignKey key) {
        if (isFollowing(key)) {
            Set<TableName> above = Set.copyOf(followed(key.target()));
            below(table).forEach(t -> followed(t).addAll(above));
            followers.computeIfAbsent(key.target(), t -> new ArrayList<>()).add(table);
        }
    }

    private static boolean isFollowing(ForeignKey key) {
        return key.onUpdate().isWriting() || key.onDelete().isWriting();
    }

    private Set<TableName> followed(TableName table) {
        Set<TableName> known = followed.get(table);
        if (known != null) {
            return known;
        }
        // one that is there already: what it follows is there, too
        Set<TableName> all = new HashSet<>(Set.of(table));
        followed.put(table, all);
        others.apply(table).map(TableDefinition::foreignKeys).orElse(List.of()).stream()
                .filter(OnePath::isFollowing)
                .forEach(k -> all.addAll(followed(k.target())));
        return all;
    }

    /** A table, and those whose records follow its own. */
    private Set<TableName> below(TableName table) {
        Set<TableName> all = new HashSet<>();
        List<TableName> next = new ArrayList<>(List.of(table));
        while (!next.isEmpty()) {
            TableName one = next.remove(next.size() - 1);
            if (all.add(one)) {
                next.addAll(followers.getOrDefault(one, List.of()));
            }
        }
        return all;
    }
}
