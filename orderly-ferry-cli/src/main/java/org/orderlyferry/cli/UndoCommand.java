package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Files;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.orderlyferry.crossing.Run;
import org.orderlyferry.crossing.Undo;
import org.orderlyferry.crossing.UndoResult;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "undo",
        mixinStandardHelpOptions = true,
        description =
                "Put the target back as it was before a crossing's last run: what it made goes, what it changed comes back"
                        + " from the run's backup, or from where the target has kept it. What was caught up since goes with it; a catch-up isn't undone by"
                        + " itself. The run may also be given by its folder.",
        footer = {"", "Example: ferry undo crossing.yaml"})
final class UndoCommand implements Callable<Integer> {

    private final Console console;

    @Mixin
    private CrossingFile file;

    @Option(
            names = "--accept-changes",
            description = "Undo although somebody has changed the tables since the run: that is thrown away, too.")
    private boolean acceptChanges;

    @Option(
            names = "--give-up",
            description =
                    "Remove the last run's backup, or what the target has kept of it, once all is signed; there is no way"
                            + " back then.")
    private boolean giveUp;

    @Option(
            names = "--statement",
            paramLabel = "done|again",
            description =
                    "Of what undoes a statement of the crossing's, and failed, or was under way when undoing was cut short:"
                            + " whether it is done, or is to be run again. Default: run again what failed.")
    private Run.StatementDecision statement;

    @Mixin
    private JsonOption json;

    UndoCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (RunView view = new RunView(console, json.isOn(), "run")) {
            Undo undo = (Files.isDirectory(file.path()) ? Undo.ofRun(file.path()) : Undo.of(file.read()))
                    .secrets(PlaceOptions.secrets())
                    .listener(view)
                    .stopSignal(console.stop())
                    .acceptChanges(acceptChanges);
            if (giveUp) {
                console.line("The way back is given up: " + undo.giveUp() + " has none any more.");
                return ExitCode.DONE;
            }
            Optional.ofNullable(statement).ifPresent(undo::statement);
            UndoResult result = undo.undo();
            if (json.isOn()) {
                view.print(json(result));
            } else {
                show(result);
            }
            return result.equal() ? ExitCode.DONE : ExitCode.DIFFERENCES;
        }
    }

    private void show(UndoResult result) {
        new Report(console).notes("Removed", result.removed());
        new Report(console).notes("As before", result.restored());
        new Report(console).notes("To be known", result.findings());
        console.line("");
        console.line(
                result.equal()
                        ? console.style().good("The target is as it was before the run") + proof(result)
                        : console.style()
                                .bad(
                                        result.moved()
                                                ? "The target isn't as it was before the run: what was kept is back, and has"
                                                        + " another number of records."
                                                : "The target isn't as it was before the run; its backup is still there."));
    }

    private static String proof(UndoResult result) {
        if (result.restored().isEmpty()) {
            return ".";
        }
        return result.moved()
                ? ": what it had replaced is back in its place, with all its records."
                : ", as its backup proves.";
    }

    private static ObjectNode json(UndoResult result) {
        ObjectNode node = JsonNodeFactory.instance.objectNode();
        node.put("step", "undo")
                .put("folder", result.folder().toString())
                .put("equal", result.equal())
                .put("moved", result.moved());
        result.removed().forEach(t -> node.withArray("removed").add(t.toString()));
        result.restored().forEach(t -> node.withArray("restored").add(t.toString()));
        node.set("findings", Report.findings(result.findings().stream()));
        return node;
    }
}
