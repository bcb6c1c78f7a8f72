package org.orderlyferry.report;

import com.fasterxml.jackson.annotation.JsonInclude;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.place.Merged;
import org.orderlyferry.work.MovedTable;

/**
 * What a step that moves records has counted of one table.
 *
 * @param read how many records were read
 * @param written how many of them were written
 * @param rejected how many weren't, each with a reason
 * @param leftOut how many a condition has left out
 * @param bytes the size of the file that was written, or of the values that were loaded
 * @param digest of the records that were written
 * @param seconds how long it took
 * @param inserted what a merge has added; null where nothing was merged
 * @param updated what a merge has changed; null where nothing was merged
 */
@NullMarked
@JsonInclude(JsonInclude.Include.NON_NULL)
public record MovedCounts(
        String table,
        long read,
        long written,
        long rejected,
        long leftOut,
        long bytes,
        String digest,
        double seconds,
        @Nullable Long inserted,
        @Nullable Long updated) {
    public MovedCounts {
        table = Bounded.text(table);
        digest = Bounded.text(digest);
    }

    static MovedCounts of(MovedTable moved) {
        return new MovedCounts(
                moved.table().text(),
                // counted on the reader's side, as the tally is; what is written is counted on the writer's
                moved.tally().rows() + moved.rejected() + moved.leftOut(),
                moved.written(),
                moved.rejected(),
                moved.leftOut(),
                moved.bytes(),
                moved.tally().digest().toString(),
                moved.time().toMillis() / 1000.0,
                moved.merged().map(Merged::inserted).orElse(null),
                moved.merged().map(Merged::updated).orElse(null));
    }
}
