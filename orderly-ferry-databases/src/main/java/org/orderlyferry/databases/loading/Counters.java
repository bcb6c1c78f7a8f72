package org.orderlyferry.databases.loading;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.TableDefinition;

/**
 * How far the counters of tables that stay must have come when a merge has ended. What a source has given out it doesn't give
 * out again, whether a record of it is left or not; nor is the target to.
 */
final class Counters {

    private Counters() {}

    /** The values that a table's counters give next, by their columns. */
    static Map<String, Long> next(TableDefinition table) {
        Map<String, Long> next = new LinkedHashMap<>();
        table.columns().forEach(c -> c.identity().ifPresent(i -> next.put(c.name(), i.next())));
        return next;
    }

    /**
     * What a source's counters give next, by the columns that theirs come into; those that count the other way say nothing.
     *
     * @param into the columns here, in the order of the source's
     */
    static Map<String, Long> given(TableDefinition source, List<ColumnDefinition> into) {
        Map<String, Long> given = new LinkedHashMap<>();
        for (int i = 0; i < into.size(); i++) {
            Optional<Identity> there = source.columns().get(i).identity();
            Optional<Identity> here = into.get(i).identity();
            if (there.isPresent()
                    && here.isPresent()
                    && there.get().increment() < 0 == here.get().increment() < 0) {
                given.put(into.get(i).name(), there.get().next());
            }
        }
        return given;
    }

    /** The same table with counters that are as far at least. */
    static TableDefinition raised(TableDefinition table, Map<String, Long> next) {
        List<ColumnDefinition> columns = table.columns().stream()
                .map(c -> c.identity().isPresent() && next.containsKey(c.name())
                        ? c.toBuilder()
                                .identity(c.identity().map(i -> raised(i, next.get(c.name()))))
                                .build()
                        : c)
                .toList();
        return table.toBuilder().columns(columns).build();
    }

    private static Identity raised(Identity identity, long next) {
        boolean down = identity.increment() < 0;
        return new Identity(
                identity.always(),
                identity.start(),
                identity.increment(),
                down ? Math.min(identity.next(), next) : Math.max(identity.next(), next));
    }
}
