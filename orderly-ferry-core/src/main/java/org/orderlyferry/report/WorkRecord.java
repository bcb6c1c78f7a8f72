package org.orderlyferry.report;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * What a piece of work did, from its beginning to its end: a run of a crossing with all its steps, or a single export, load
 * or comparison. It holds no more than a report shows, and no secrets. Immutable; as JSON it is what
 * {@code record.schema.json} describes.
 *
 * @param record the version of the format: {@value #VERSION}
 * @param kind what kind of work it is
 * @param name what it is called; a run by the moment when it began
 * @param status what became of it
 * @param software what did it
 * @param began when it began
 * @param ended when it ended; null where it didn't
 * @param source where the records came from
 * @param target where they went
 * @param settings how it was told to be done
 * @param steps in the order in which they were done
 * @param events what happened on the way, the oldest first
 * @param rejects the records that were rejected; null for none
 * @param set the export set that it went by; null where there is none
 */
@NullMarked
@JsonInclude(JsonInclude.Include.NON_NULL)
public record WorkRecord(
        int record,
        WorkKind kind,
        String name,
        WorkStatus status,
        Software software,
        Instant began,
        @Nullable Instant ended,
        RecordedEnd source,
        RecordedEnd target,
        Map<String, String> settings,
        List<WorkStep> steps,
        List<RecordedEvent> events,
        @Nullable RecordedRejects rejects,
        @Nullable RecordedSet set) {

    /** The version of the format that is written. */
    public static final int VERSION = 1;

    public WorkRecord {
        kind = kind == null ? WorkKind.RUN : kind;
        name = Bounded.text(name);
        status = status == null ? WorkStatus.UNFINISHED : status;
        software = software == null ? Software.UNKNOWN : software;
        began = began == null ? Instant.EPOCH : began;
        source = source == null ? new RecordedEnd("", "") : source;
        target = target == null ? new RecordedEnd("", "") : target;
        settings = Bounded.texts(settings);
        steps = Bounded.list(steps);
        events = Bounded.list(events);
    }

    /** A record of one step that this process has done. */
    public static WorkRecord ofStep(
            WorkKind kind,
            WorkStep step,
            RecordedEnd source,
            RecordedEnd target,
            Map<String, String> settings,
            @Nullable RecordedRejects rejects,
            @Nullable RecordedSet set) {
        return new WorkRecord(
                VERSION,
                kind,
                step.began().toString(),
                WorkStatus.FINISHED,
                Software.here(),
                step.began(),
                step.began().plusMillis(Math.round(step.seconds() * 1000)),
                source,
                target,
                settings,
                List.of(step),
                List.of(),
                rejects,
                set);
    }

    /**
     * Reads a record from a file.
     *
     * @throws org.orderlyferry.problem.MalformedFileException if it isn't one
     * @throws org.orderlyferry.problem.PlaceException if it can't be read
     */
    public static WorkRecord read(Path file) {
        return RecordJson.read(file, WorkRecord.class);
    }

    /**
     * Writes it to a file, in place of one that is there.
     *
     * @throws org.orderlyferry.problem.PlaceException if it can't be written
     */
    public void write(Path file) {
        RecordJson.write(file, this);
    }

    /** The record as JSON. */
    public String json() {
        return RecordJson.text(this);
    }

    /** What became of each table, and whether it adds up. */
    public List<TableCounts> tables() {
        return TableCounts.of(this);
    }

    /** What comparing the ends has come to. That a catch-up has found some tables to be as they were isn't all that it shows. */
    public Optional<RecordedComparison> proof() {
        return steps.stream()
                .filter(s -> !s.step().equals(TableCounts.EXPORT))
                .flatMap(s -> Stream.ofNullable(s.compared()))
                .reduce((first, second) -> second);
    }

    /** Whether something was left behind that brings or changes records, so that what arrived may not be all. */
    public boolean mayLackRecords() {
        return steps.stream().flatMap(s -> s.leftBehind().stream()).anyMatch(RecordedThing::isOfRecords);
    }

    /** What all of it comes to. */
    public Conclusion conclusion() {
        return Conclusion.of(this);
    }
}
