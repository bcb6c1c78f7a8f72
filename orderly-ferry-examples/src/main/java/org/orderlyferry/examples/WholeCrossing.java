package org.orderlyferry.examples;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.crossing.CheckResult;
import org.orderlyferry.crossing.Crossing;
import org.orderlyferry.crossing.Draft;
import org.orderlyferry.crossing.RunListener;
import org.orderlyferry.crossing.RunResult;
import org.orderlyferry.crossing.UndoResult;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.model.Finding;

/** A migration that is written down, looked at, done, and undone again. */
public final class WholeCrossing {

    private WholeCrossing() {}

    /**
     * Drafts, checks, runs and undoes a crossing: {@code FROM TO FILE}. Without arguments, of a small herbarium that is made
     * for it.
     *
     * @param arguments two places and the crossing's file, or none
     */
    public static void main(String[] arguments) {
        Path folder = arguments.length == 3 ? Path.of(".") : Workplace.folder();
        String from = arguments.length == 3
                ? arguments[0]
                : Workplace.herbarium(folder, false).toString();
        String to = arguments.length == 3
                ? arguments[1]
                : folder.resolve("herbarium.sqlite").toString();
        Path file = arguments.length == 3 ? Path.of(arguments[2]) : folder.resolve("crossing.yaml");
        cross(from, to, file).forEach(System.out::println);
        System.out.println("The crossing is in " + file + ", its run in " + file.resolveSibling("runs"));
    }

    static List<String> cross(String from, String to, Path file) {
        List<String> told = new ArrayList<>();
        if (!Files.exists(file)) {
            Draft.between(from, to).write(file);
        }
        Crossing crossing = Crossing.read(file);
        CheckResult check = crossing.check();
        told.add(check.tables().size() + " tables, "
                + (check.isAllowed() ? "allowed" : "refused: " + check.obstacles()));
        if (!check.isAllowed()) {
            return told;
        }
        RunResult run = crossing.run(new RunListener() {
            @Override
            public void done(LedgerLine line, List<Finding> findings) {
                told.add(line.what() + " done");
            }
        });
        told.add(run.equal() ? "proved" : "not equal");
        UndoResult undo = crossing.undo(RunListener.SILENT);
        told.add(undo.removed().size() + " tables removed again");
        return told;
    }
}
