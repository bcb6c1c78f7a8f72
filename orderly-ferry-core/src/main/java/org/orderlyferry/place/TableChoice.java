package org.orderlyferry.place;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.apache.commons.text.similarity.LevenshteinDistance;
import org.apiguardian.api.API;
import org.orderlyferry.model.NamePattern;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.UsageException;

/** Chooses among a place's tables by names, in which {@code *} stands for any characters. */
@API(status = API.Status.INTERNAL)
public final class TableChoice {

    private TableChoice() {}

    /**
     * The tables that the patterns name, in the place's order; all of them where there are no patterns. A name fits as
     * it is written; if none does, in any case. A name without a schema is that of the table which has none, and only where
     * there is no such table those of all schemas.
     *
     * @throws UsageException if a pattern fits no table; the message has the nearest name
     */
    public static List<TableName> of(Place place, List<String> patterns) {
        List<TableName> all = place.tables();
        if (patterns.isEmpty()) {
            return all;
        }
        List<TableName> chosen = new ArrayList<>();
        for (String pattern : patterns) {
            List<TableName> fitting = fitting(all, pattern);
            if (fitting.isEmpty()) {
                throw missing(place, all, pattern);
            }
            chosen.addAll(fitting);
        }
        return all.stream().filter(chosen::contains).toList();
    }

    /** The one table of this name. */
    public static TableName one(Place place, String name) {
        List<TableName> found = of(place, List.of(name));
        if (found.size() > 1) {
            throw new UsageException(name + " fits " + found.size() + " tables: " + Listed.of(found) + "; name one");
        }
        return found.get(0);
    }

    private static List<TableName> fitting(List<TableName> all, String pattern) {
        NamePattern wanted = NamePattern.of(pattern);
        List<TableName> exact = fitting(all, wanted);
        return exact.isEmpty() ? fitting(all, wanted.inAnyCase()) : exact;
    }

    /** A table in a schema may go by its own name alone, unless that is all of another one's. */
    private static List<TableName> fitting(List<TableName> all, NamePattern wanted) {
        List<TableName> whole =
                all.stream().filter(t -> wanted.matches(t.toString())).toList();
        return whole.isEmpty() || !wanted.isOne()
                ? all.stream()
                        .filter(t -> wanted.matches(t.toString()) || wanted.matches(t.name()))
                        .toList()
                : whole;
    }

    private static UsageException missing(Place place, List<TableName> all, String pattern) {
        Optional<TableName> nearest = all.stream()
                .min(java.util.Comparator.comparingInt(t -> LevenshteinDistance.getDefaultInstance()
                        .apply(t.name().toLowerCase(Locale.ROOT), pattern.toLowerCase(Locale.ROOT))));
        String hint = nearest.map(t -> "; the nearest name is " + t).orElse("; it has no tables at all");
        return new UsageException("there is no table " + pattern + " in " + place.address() + hint);
    }
}
