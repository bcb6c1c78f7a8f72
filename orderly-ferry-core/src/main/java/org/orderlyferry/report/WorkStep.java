package org.orderlyferry.report;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * A step of the work: what it counted, when, and what it found.
 *
 * @param step what it is called: export, load, proof …
 * @param began when it began, or when the process that ended it did
 * @param seconds how long that took
 * @param facts what the ledger says of it
 * @param moved what it counted of each table that it moved
 * @param kept what the set that it filled tells of its tables
 * @param compared what it compared; null where it compared nothing
 * @param slices when slices moved
 * @param furtherSlices how many more there were
 * @param retries how often a slice was tried again
 * @param pace how many records moved in each stretch of time
 * @param findings what a person should know
 * @param leftBehind what couldn't be carried
 * @param failed tables that couldn't be read, each with its reason
 */
@NullMarked
@JsonInclude(JsonInclude.Include.NON_NULL)
public record WorkStep(
        String step,
        Instant began,
        double seconds,
        Map<String, String> facts,
        List<MovedCounts> moved,
        List<KeptCount> kept,
        @Nullable RecordedComparison compared,
        List<SliceTime> slices,
        long furtherSlices,
        long retries,
        List<PaceSample> pace,
        List<RecordedFinding> findings,
        List<RecordedThing> leftBehind,
        Map<String, String> failed) {
    public WorkStep {
        step = Bounded.text(step);
        began = began == null ? Instant.EPOCH : began;
        facts = Bounded.texts(facts);
        moved = Bounded.list(moved);
        kept = Bounded.list(kept);
        slices = Bounded.list(slices);
        pace = Bounded.list(pace);
        findings = Bounded.list(findings);
        leftBehind = Bounded.list(leftBehind);
        failed = Bounded.texts(failed);
    }

    /** The same with what the ledger says of it. */
    public WorkStep withFacts(Map<String, String> value) {
        return new WorkStep(
                step,
                began,
                seconds,
                value,
                moved,
                kept,
                compared,
                slices,
                furtherSlices,
                retries,
                pace,
                findings,
                leftBehind,
                failed);
    }
}
