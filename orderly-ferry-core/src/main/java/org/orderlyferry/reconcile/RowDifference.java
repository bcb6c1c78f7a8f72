package org.orderlyferry.reconcile;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableDefinition;

/**
 * A record that isn't the same on both sides.
 *
 * @param table the source's table, with those of its columns that are compared
 * @param kind what is the matter
 * @param key the columns by which records were found; all of them in a table without a key
 * @param source the record's values at the source, in the order of the table's columns; empty if it isn't there
 * @param target likewise at the target
 * @param differing the columns whose values differ; none where one side has no such record
 */
@NullMarked
public record RowDifference(
        TableDefinition table,
        Kind kind,
        List<String> key,
        Optional<RecordValues> source,
        Optional<RecordValues> target,
        List<String> differing) {

    /** What may be the matter with a record. */
    public enum Kind {
        /** The target doesn't have it. */
        MISSING,
        /** Only the target has it. */
        EXTRA,
        /** Both have it, with other values. */
        DIFFERENT
    }

    public RowDifference {
        key = List.copyOf(key);
        differing = List.copyOf(differing);
    }

    /** The record on the one side that has it, the source's where both have. */
    public RecordValues any() {
        return source.or(() -> target).orElseThrow();
    }
}
