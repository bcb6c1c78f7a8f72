package org.orderlyferry.report;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.work.TransferResult;

/** Gathers what a step is to leave in a record. For one thread. */
@NullMarked
@API(status = API.Status.INTERNAL)
public final class StepNotes {

    private final Instant began = Instant.now();
    private final List<MovedCounts> moved = new ArrayList<>();
    private final List<KeptCount> kept = new ArrayList<>();
    private final List<RecordedFinding> findings = new ArrayList<>();
    private final List<RecordedThing> leftBehind = new ArrayList<>();
    private final Map<String, String> failed = new TreeMap<>();
    private @Nullable RecordedComparison compared;

    /** Of a step that begins now. */
    public StepNotes() {}

    /** What it moved. */
    public StepNotes moved(TransferResult result) {
        result.tables().stream().map(MovedCounts::of).forEach(moved::add);
        result.failed().forEach(f -> failed.put(f.table().text(), f.reason()));
        found(result.findings());
        return leftBehind(result.leftBehind());
    }

    /** What the set that it filled tells of itself. */
    public StepNotes kept(Place set) {
        kept.clear();
        for (TableName table : set.tables()) {
            set.keptTally(table).map(t -> of(table, t)).ifPresent(kept::add);
        }
        return this;
    }

    private static KeptCount of(TableName table, Tally tally) {
        return new KeptCount(table.text(), tally.rows(), tally.digest().toString());
    }

    /** What it compared. */
    public StepNotes compared(RecordedComparison value) {
        compared = value;
        return this;
    }

    /** What a person should know besides. */
    public StepNotes found(List<Finding> more) {
        more.stream()
                .map(RecordedFinding::of)
                .filter(f -> !findings.contains(f))
                .forEach(findings::add);
        return this;
    }

    /** What couldn't be carried. */
    public StepNotes leftBehind(List<LeftBehind> more) {
        more.stream()
                .map(RecordedThing::of)
                .filter(t -> !leftBehind.contains(t))
                .forEach(leftBehind::add);
        return this;
    }

    /** All of it, with the times that were noted. */
    public WorkStep step(String name, Timeline time) {
        return new WorkStep(
                name,
                began,
                time.seconds(),
                Map.of(),
                moved,
                kept,
                compared,
                time.slices(),
                time.furtherSlices(),
                time.retries(),
                time.pace(),
                findings,
                leftBehind,
                failed);
    }
}
