package org.orderlyferry.databases.place;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/**
 * Cuts a table by a primary key of whole numbers without looking at them: no range of so many numbers holds more records
 * than that, since each has a number of its own. It serves where most numbers are there, as counters leave them; where there
 * are few among many, most of such ranges would be empty, and the key's index has to be walked.
 */
final class WholeNumbers {

    /** So many times the slices that would be enough come of it at most. */
    private static final int MOST_GAPS = 2;

    /** More than that aren't taken on trust: how many records there are is an estimate, of which a walk finds the truth. */
    private static final int MOST_SLICES = 10_000;

    private WholeNumbers() {}

    /** Whether a column's numbers tell records apart. */
    static boolean identify(TableDefinition table, ColumnDefinition column) {
        TypeName type = column.type().name();
        return (type == TypeName.SMALLINT || type == TypeName.INTEGER || type == TypeName.BIGINT)
                && table.primaryKey()
                        .filter(k -> k.columns().equals(List.of(column.name())))
                        .isPresent();
    }

    /**
     * Where to cut.
     *
     * @param least the smallest number, as the system says it
     * @param greatest the greatest
     * @param rows how many records a slice has at most
     * @param all how many records there are, about
     * @return the first number of each slice but the first; none where the key has to be walked
     */
    static List<String> between(Optional<String> least, Optional<String> greatest, long rows, long all) {
        if (least.isEmpty() || greatest.isEmpty()) {
            return List.of();
        }
        long first;
        long span;
        try {
            first = Long.parseLong(least.get());
            span = Math.incrementExact(Math.subtractExact(Long.parseLong(greatest.get()), first));
        } catch (NumberFormatException | ArithmeticException e) {
            // SQLite holds anything in a column of whole numbers; and nobody has 2^63 records
            return List.of();
        }
        if (span / MOST_GAPS >= all && span > MOST_GAPS * all) {
            return List.of();
        }
        long slices = span / rows + (span % rows == 0 ? 0 : 1);
        if (slices > MOST_SLICES) {
            return List.of();
        }
        List<String> boundaries = new ArrayList<>();
        for (long i = 1; i < slices; i++) {
            // as even as they come, and never more than that in one
            boundaries.add(Long.toString(first + span / slices * i + Math.min(i, span % slices)));
        }
        return boundaries;
    }
}
