package org.orderlyferry.crossing;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.report.RecordJson;
import org.orderlyferry.report.RecordedEnd;
import org.orderlyferry.report.RecordedEvent;
import org.orderlyferry.report.RecordedSet;
import org.orderlyferry.report.RejectGroups;
import org.orderlyferry.report.SetFiles;
import org.orderlyferry.report.Software;
import org.orderlyferry.report.WorkKind;
import org.orderlyferry.report.WorkRecord;
import org.orderlyferry.report.WorkStatus;
import org.orderlyferry.report.WorkStep;

/**
 * Puts a run's record together from what its folder keeps: the ledger, what each step has counted, the set, the rejects.
 * Nothing is changed, and no place is opened.
 */
@NullMarked
public final class RunRecords {

    private final RunFolder folder;
    private final List<LedgerLine> lines;
    private final List<RecordedEvent> events = new ArrayList<>();

    private RunRecords(RunFolder folder) {
        this.folder = folder;
        this.lines = RunLedger.read(folder.path()).lines();
    }

    /**
     * Whether a folder is that of a run.
     *
     * @param folder any
     */
    public static boolean isRun(Path folder) {
        return Files.isRegularFile(folder.resolve(RunLedger.NAME));
    }

    /**
     * The folder of the last run, or of the last catch-up, that a folder keeps.
     *
     * @throws UsageException if it keeps none
     */
    public static Path last(Path keep) {
        return RunFolder.last(keep)
                .map(RunFolder::path)
                .orElseThrow(() -> new UsageException("there is no run in " + keep));
    }

    /**
     * The record of a run.
     *
     * @param folder the run's
     * @throws org.orderlyferry.problem.FerryException if it is none, or if somebody has changed its ledger
     */
    public static WorkRecord of(Path folder) {
        return new RunRecords(new RunFolder(folder)).record();
    }

    private WorkRecord record() {
        if (lines.isEmpty()) {
            throw new UsageException(folder.path() + " is a run's folder in which nothing was done yet");
        }
        Crossing crossing = Crossing.read(folder.crossing());
        List<LedgerLine> begun = of(Step.RUN, State.BEGUN);
        LedgerLine last = begun.isEmpty() ? lines.get(0) : begun.get(begun.size() - 1);
        List<WorkStep> steps = steps();
        ways(begun);
        RecordedSet set = set();
        return new WorkRecord(
                WorkRecord.VERSION,
                last.fact("kind").equals(Runs.CATCH_UP) ? WorkKind.CATCH_UP : WorkKind.RUN,
                folder.name(),
                status(),
                new Software(last.fact("version"), last.fact("java"), last.fact("system")),
                lines.get(0).at(),
                of(Step.RUN, State.DONE).stream()
                        .findFirst()
                        .map(LedgerLine::at)
                        .orElse(null),
                new RecordedEnd(PlaceAddress.of(crossing.from()).toString(), system(Step.EXPORT)),
                new RecordedEnd(PlaceAddress.of(crossing.to()).toString(), system(Step.LOAD)),
                settings(crossing),
                steps,
                events,
                RejectGroups.of(folder.rejects()),
                set);
    }

    private List<LedgerLine> of(Step step, State state) {
        return lines.stream()
                .filter(l -> l.what() == step && l.state() == state)
                .toList();
    }

    private String system(Step step) {
        return of(step, State.DONE).stream()
                .findFirst()
                .map(l -> l.fact(Run.SYSTEM))
                .orElse("");
    }

    private WorkStatus status() {
        if (!of(Step.UNDO, State.DONE).isEmpty()) {
            return WorkStatus.UNDONE;
        }
        if (!of(Step.RUN, State.GIVEN_UP).isEmpty()) {
            return WorkStatus.REFUSED;
        }
        return of(Step.RUN, State.DONE).isEmpty() ? WorkStatus.UNFINISHED : WorkStatus.FINISHED;
    }

    /** Each that is done, with what it has written down; one of an older version, or one that was found to be in, has less. */
    private List<WorkStep> steps() {
        List<WorkStep> steps = new ArrayList<>();
        Map<Step, Instant> begun = new EnumMap<>(Step.class);
        for (LedgerLine line : lines) {
            if (line.state() == State.BEGUN) {
                begun.put(line.what(), line.at());
            }
            if (line.state() == State.DONE && line.what() != Step.RUN) {
                Path kept = folder.record(line.what());
                Instant from = begun.getOrDefault(line.what(), line.at());
                steps.add(
                        Files.isRegularFile(kept)
                                ? RecordJson.read(kept, WorkStep.class).withFacts(facts(line))
                                : bare(line, from));
            }
        }
        return steps;
    }

    /** What the ledger says; but for what it keeps of each table, which stands in the step's own counts. */
    private static Map<String, String> facts(LedgerLine line) {
        Map<String, String> facts = new TreeMap<>(line.facts());
        facts.keySet()
                .removeIf(f ->
                        f.equals("tables") || f.startsWith(LeftTarget.AT_TARGET) || f.startsWith(ChangedTables.NAMED));
        return facts;
    }

    private static WorkStep bare(LedgerLine line, Instant from) {
        return new WorkStep(
                line.what().word(),
                from,
                Duration.between(from, line.at()).toMillis() / 1000.0,
                facts(line),
                List.of(),
                List.of(),
                null,
                List.of(),
                0,
                0,
                List.of(),
                List.of(),
                List.of(),
                Map.of());
    }

    /** What a person who wasn't there should be told plainly. */
    private void ways(List<LedgerLine> begun) {
        for (int i = 0; i < begun.size(); i++) {
            LedgerLine line = begun.get(i);
            tell(
                    line.at(),
                    i == 0
                            ? "began, by " + line.fact("by")
                            : "went on, by " + line.fact("by")
                                    + "; the process before it had been stopped or killed, or had failed");
        }
        of(Step.RUN, State.GIVEN_UP).forEach(l -> tell(l.at(), l.fact("why")));
        of(Step.UNDO, State.GIVEN_UP).forEach(l -> tell(l.at(), "the way back was given up, and the backup removed"));
        of(Step.UNDO, State.DONE)
                .forEach(l -> tell(
                        l.at(),
                        l.fact("with").isEmpty() ? "undone" : "undone together with the run of " + l.fact("with")));
        catchUps();
        events.sort(java.util.Comparator.comparing(RecordedEvent::at));
    }

    private void tell(Instant at, String text) {
        events.add(new RecordedEvent(at, text));
    }

    /** Those that came after a whole run, up to the next one. */
    private void catchUps() {
        Path keep = folder.path().toAbsolutePath().getParent();
        if (keep == null || !of(Step.RUN, State.BEGUN).isEmpty() && isCatchUp(lines)) {
            return;
        }
        for (RunFolder later : RunFolder.all(keep)) {
            if (later.name().compareTo(folder.name()) <= 0) {
                continue;
            }
            RunLedger ledger = RunLedger.read(later.path());
            if (!isCatchUp(ledger.lines())) {
                return;
            }
            Optional<LedgerLine> done = ledger.last(Step.RUN, State.DONE);
            Optional<LedgerLine> proof = ledger.last(Step.PROOF, State.DONE);
            tell(
                    done.map(LedgerLine::at).orElse(ledger.lines().get(0).at()),
                    "a catch-up, " + later.name() + ": "
                            + (done.isEmpty()
                                    ? "not finished"
                                    : proof.filter(p -> p.fact("equal").equals("true"))
                                                    .isPresent()
                                            ? "the target was shown to be up to date"
                                            : "the target wasn't as it should be"));
        }
    }

    private static boolean isCatchUp(List<LedgerLine> lines) {
        return lines.stream()
                .anyMatch(l -> l.what() == Step.RUN
                        && l.state() == State.BEGUN
                        && l.fact("kind").equals(Runs.CATCH_UP));
    }

    private @Nullable RecordedSet set() {
        try {
            return SetFiles.of(folder.set());
        } catch (BrokenSetException e) {
            tell(Instant.now(), "the run's set isn't whole any more: " + e.getMessage());
            return null;
        }
    }

    /** What the crossing says for all tables; addresses stand elsewhere. */
    private static Map<String, String> settings(Crossing crossing) {
        Map<String, String> settings = new TreeMap<>();
        for (Map.Entry<String, JsonNode> entry : CrossingJson.of(crossing).properties()) {
            if (entry.getValue().isValueNode()) {
                settings.put(entry.getKey(), entry.getValue().asText());
            }
        }
        settings.remove("from");
        settings.remove("to");
        for (CrossingTable table : crossing.tables()) {
            String of = " " + table.to().text();
            OwnChoices own = table.own();
            own.onto().ifPresent(o -> settings.put("onto" + of, CrossingWriter.onto(o)));
            own.proof().ifPresent(p -> settings.put("proof" + of, YamlReading.word(p)));
            own.rejectsAllowed().ifPresent(r -> settings.put("rejects-allowed" + of, Long.toString(r)));
        }
        settings.put("tables", Integer.toString(crossing.tables().size()));
        settings.put("lanes", Integer.toString(crossing.lanes()));
        if (!crossing.rules().isEmpty()) {
            settings.put(
                    "rules",
                    String.join(
                            ", ", crossing.rules().stream().map(r -> r.shown()).toList()));
        }
        return settings;
    }
}
