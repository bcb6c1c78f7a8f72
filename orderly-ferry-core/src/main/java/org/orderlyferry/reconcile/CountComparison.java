package org.orderlyferry.reconcile;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.Function;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;

/**
 * Compares tables by how many records each side counts.
 *
 * @param before what the target had before records were added to it
 */
record CountComparison(Place source, Place target, Optional<Place> before) {

    /**
     * Compares two tables, or counts the one that has no partner.
     *
     * @param columns which columns of a pair belong together
     */
    ComparedTable compare(TablePair pair, Function<TablePair, ColumnPairs> columns) {
        if (pair.target() == null) {
            return alone(pair.source(), OptionalLong.of(source.count(pair.source())), OptionalLong.empty());
        }
        if (pair.source() == null) {
            return alone(pair.target(), OptionalLong.empty(), OptionalLong.of(target.count(pair.target())));
        }
        return counts(pair, columns.apply(pair));
    }

    private static ComparedTable alone(TableName table, OptionalLong sourceRows, OptionalLong targetRows) {
        Verdict verdict = sourceRows.isPresent() ? Verdict.MISSING_IN_TARGET : Verdict.MISSING_IN_SOURCE;
        return new ComparedTable(
                table,
                sourceRows,
                targetRows,
                verdict,
                List.of(),
                List.of(),
                List.of(),
                "",
                "",
                Optional.empty(),
                List.of(),
                List.of());
    }

    private ComparedTable counts(TablePair pair, ColumnPairs columns) {
        long sourceRows = source.count(pair.source())
                + before.filter(p -> p.tables().contains(pair.target()))
                        .map(p -> p.count(pair.target()))
                        .orElse(0L);
        long targetRows = target.count(pair.target());
        boolean equal = sourceRows == targetRows && columns.areComplete();
        return new ComparedTable(
                pair.source(),
                OptionalLong.of(sourceRows),
                OptionalLong.of(targetRows),
                equal ? Verdict.EQUAL : Verdict.DIFFERENT,
                List.of(),
                columns.onlyAtSource(),
                columns.onlyAtTarget(),
                "",
                "",
                Optional.empty(),
                List.of(),
                List.of());
    }
}
