package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.orderlyferry.crossing.CatchUp;
import org.orderlyferry.crossing.Crossing;
import org.orderlyferry.crossing.Run;
import org.orderlyferry.crossing.RunRecords;
import org.orderlyferry.crossing.RunResult;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.ComparedTable;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.reconcile.Verdict;
import org.orderlyferry.report.RecordedRejects;
import org.orderlyferry.report.TableCounts;
import org.orderlyferry.report.WorkRecord;
import org.orderlyferry.work.RemoteEngine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(
        name = "run",
        mixinStandardHelpOptions = true,
        description =
                "Do what a crossing says: keep what changes, export, load, prove. Killed at any moment, it goes on where"
                        + " it stopped when it is run again.",
        footer = {"", "Example: ferry run crossing.yaml"})
final class RunCommand implements Callable<Integer> {

    private final Console console;

    @Mixin
    private CrossingFile file;

    @Option(
            names = "--from-the-start",
            description = "Throw away a run that was cut short, with what it has done to the target, and begin anew.")
    private boolean fromTheStart;

    @Option(
            names = "--catch-up",
            description =
                    "Move only what has changed at the source since the last run: new and changed records, and, where"
                            + " the crossing says follow-deletes, those that are gone.")
    private boolean catchUp;

    @Option(
            names = "--statement",
            paramLabel = "done|again",
            description =
                    "Of a statement of the crossing's that failed, or was under way when the run was cut short: whether it"
                            + " is done, or is to be run again. Default: refuse to go on.")
    private Run.StatementDecision statement;

    @Mixin
    private EngineOptions engine;

    @Mixin
    private JsonOption json;

    @Spec
    private CommandSpec spec;

    RunCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        Optional<RemoteEngine.Provider> asked = engine.asked();
        if (asked.isPresent() && catchUp) {
            throw new UsageException("what has changed is moved by this process alone; --engine is for whole runs");
        }
        boolean leads = asked.isEmpty() || asked.get().isHere();
        Crossing crossing = file.read();
        if (!leads) {
            return asked.get()
                    .again(
                            Main.class,
                            engine.master(),
                            spec.root().commandLine().getParseResult().originalArgs());
        }
        try (RemoteEngine started = asked.map(RemoteEngine.Provider::start).orElse(null)) {
            return viewed(crossing, Optional.ofNullable(started));
        }
    }

    private int viewed(Crossing crossing, Optional<RemoteEngine> started) {
        try (RunView view = new RunView(console, json.isOn(), catchUp ? "catch-up" : "run")) {
            try {
                return catchUp ? caughtUp(crossing, view) : run(crossing, view, started);
            } catch (StoppedException e) {
                if (!view.hasBegun()) {
                    throw e;
                }
                console.problem("ferry: stopped. " + goesOn());
                return ExitCode.FAILED;
            } catch (PlaceException e) {
                if (view.hasBegun()) {
                    console.problem(goesOn());
                }
                throw e;
            }
        }
    }

    private String goesOn() {
        return "What is done stays: ferry run " + Argument.of(file.path()) + (catchUp ? " --catch-up" : "")
                + " goes on from there, and ferry undo " + Argument.of(file.path()) + " puts the target back.";
    }

    private int run(Crossing crossing, RunView view, Optional<RemoteEngine> started) {
        Run run = Run.of(crossing)
                .secrets(PlaceOptions.secrets())
                .listener(view)
                .stopSignal(console.stop())
                .fromTheStart(fromTheStart);
        if (statement != null) {
            run.statement(statement);
        }
        started.ifPresent(run::engine);
        RunResult result = run.run();
        if (json.isOn()) {
            view.print(json(result));
        } else {
            show(result);
        }
        return code(result);
    }

    /** Also where both ends are equal, no hop on the way may have lost count. */
    private int code(RunResult result) {
        WorkRecord record = RunRecords.of(result.folder());
        List<TableCounts> wrong =
                record.tables().stream().filter(t -> !t.addsUp()).toList();
        wrong.forEach(
                t -> t.wrong().forEach(w -> console.problem("ferry: table " + t.table() + " doesn't add up: " + w)));
        return result.equal() && wrong.isEmpty() && !record.mayLackRecords() ? ExitCode.DONE : ExitCode.DIFFERENCES;
    }

    private int caughtUp(Crossing crossing, RunView view) {
        if (fromTheStart || statement != null) {
            throw new UsageException("--from-the-start and --statement are for whole runs");
        }
        RunResult result = CatchUp.of(crossing)
                .secrets(PlaceOptions.secrets())
                .listener(view)
                .stopSignal(console.stop())
                .run();
        if (json.isOn()) {
            view.print(json(result));
        } else {
            new ChangesView(console).show(result);
            show(result);
        }
        return code(result);
    }

    private void show(RunResult result) {
        result.proof().filter(p -> !result.equal()).ifPresent(this::differences);
        Report report = new Report(console);
        report.notes("To be known", result.findings());
        report.notes("Left behind", result.leftBehind());
        console.line("");
        WorkRecord record = RunRecords.of(result.folder());
        console.line(ending(result, record) + " The run is kept in " + result.folder());
        RecordedRejects rejects = record.rejects();
        if (rejects != null) {
            String them = Amounts.count(rejects.count(), "record") + (rejects.count() == 1 ? " was" : " were");
            console.line(console.style().warning(them + " rejected") + ", with the reason in " + rejects.file());
        }
        console.line("For a report to sign: ferry report " + Argument.of(file.path()));
        console.line("To put the target back as it was: ferry undo " + Argument.of(file.path()));
    }

    private String ending(RunResult result, WorkRecord record) {
        Style style = console.style();
        if (!result.equal()) {
            return style.bad("Done, and the target isn't as it should be.");
        }
        return record.mayLackRecords()
                ? style.bad(
                        "Done, and equal, but what changes records at the source and isn't followed is left behind.")
                : style.good("Done, and proved.");
    }

    private void differences(ReconcileResult proof) {
        console.line("");
        TextTable table =
                new TextTable().left("table").right("should have").right("has").left("what differs");
        for (ComparedTable one : proof.tables()) {
            if (one.verdict() != Verdict.EQUAL) {
                table.row(
                        one.table().toString(),
                        one.sourceRows().isPresent()
                                ? Amounts.count(one.sourceRows().getAsLong())
                                : "–",
                        one.targetRows().isPresent()
                                ? Amounts.count(one.targetRows().getAsLong())
                                : "–",
                        ReconcileView.what(one, proof.depth()));
            }
        }
        table.lines(console.style()).forEach(console::line);
        if (proof.depth() == Depth.ROWS) {
            console.line("The records that differ are in the folder differences of the run.");
        }
    }

    private static ObjectNode json(RunResult result) {
        ObjectNode node = JsonNodeFactory.instance.objectNode();
        node.put("step", "run")
                .put("folder", result.folder().toString())
                .put("wentOn", result.wentOn())
                .put("equal", result.equal());
        result.proof().ifPresent(p -> node.put("depth", p.depth().name().toLowerCase(Locale.ROOT)));
        node.set("findings", Report.findings(result.findings().stream()));
        node.set("leftBehind", Report.leftBehind(result.leftBehind()));
        return node;
    }
}
