package org.orderlyferry.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.report.RecordedEnd;
import org.orderlyferry.report.RejectGroups;
import org.orderlyferry.report.SetFiles;
import org.orderlyferry.report.StepNotes;
import org.orderlyferry.report.Timeline;
import org.orderlyferry.report.WorkKind;
import org.orderlyferry.report.WorkRecord;
import org.orderlyferry.report.WorkStep;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** A record of what was done, for {@code ferry report}. */
final class RecordOption {

    @Option(
            names = "--record",
            paramLabel = "FILE",
            description = "Write down what was done, counted and found, as a new JSON file; ferry report makes a report"
                    + " of it.")
    private Path file;

    @Spec(Spec.Target.MIXEE)
    private CommandSpec spec;

    private Timeline time;
    private WorkStep step;
    private RecordedEnd source;
    private RecordedEnd target;

    /** Before anything is done: the file mustn't be there. */
    void mustBeNew() {
        if (file != null && Files.exists(file)) {
            throw new UsageException(file + " is there already; a record goes into a new file");
        }
    }

    /** A record is of what was done. */
    void mustNotBeOfATry(boolean tried) {
        if (file != null && tried) {
            throw new UsageException("--record is of what was done, and --try does nothing");
        }
    }

    /** The work begins; gives who is to hear of it. */
    ProgressListener begun(ProgressListener further) {
        time = new Timeline(further);
        return time;
    }

    /** The work is done. */
    void done(String name, RecordedEnd from, RecordedEnd to, Consumer<StepNotes> told) {
        if (file == null) {
            return;
        }
        StepNotes notes = new StepNotes();
        told.accept(notes);
        step = notes.step(name, time);
        source = from;
        target = to;
    }

    /**
     * Writes the record, when all other files are closed.
     *
     * @param onto what a load did to tables that were there; empty for nothing
     */
    void write(WorkKind kind, String onto, Optional<Path> rejects, Optional<Path> set) {
        if (step == null) {
            return;
        }
        WorkRecord.ofStep(
                        kind,
                        step,
                        source,
                        target,
                        settings(onto),
                        rejects.map(RejectGroups::of).orElse(null),
                        set.map(SetFiles::of).orElse(null))
                .write(file);
    }

    /** Every option that was given; places stand elsewhere, and secrets in options are struck out. */
    private Map<String, String> settings(String onto) {
        Map<String, String> settings = new TreeMap<>();
        spec.commandLine()
                .getParseResult()
                .matchedOptions()
                .forEach(o -> settings.put(
                        o.longestName(),
                        o.stringValues().isEmpty() && o.originalStringValues().isEmpty()
                                ? String.valueOf(o.<Object>getValue())
                                : o.originalStringValues().stream()
                                        .map(PlaceAddress::masked)
                                        .collect(Collectors.joining(", "))));
        settings.remove("--record");
        String tables = spec.commandLine().getParseResult().matchedPositionals().stream()
                .filter(p -> p.paramLabel().equals("TABLE"))
                .flatMap(p -> p.originalStringValues().stream())
                .collect(Collectors.joining(", "));
        if (!tables.isEmpty()) {
            settings.put("tables", tables);
        }
        if (!onto.isEmpty()) {
            settings.put("onto", onto);
        }
        return settings;
    }
}
