package org.orderlyferry.matrix;

import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.orderlyferry.crossing.CatchUp;
import org.orderlyferry.crossing.Crossing;
import org.orderlyferry.crossing.Run;
import org.orderlyferry.crossing.RunListener;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableName;

/**
 * A process that runs a crossing and ends outright, as if it were killed, at the n-th thing that it hears of; with a number
 * that is too high it says how many there are.
 */
final class HaltedRun {

    /** The exit code of a process that was killed, by the shells' custom. */
    static final int KILLED = 137;

    private HaltedRun() {}

    public static void main(String[] arguments) {
        int at = Integer.parseInt(arguments[1]);
        AtomicInteger heard = new AtomicInteger();
        Runnable hear = () -> {
            if (heard.incrementAndGet() == at) {
                Runtime.getRuntime().halt(KILLED);
            }
        };
        RunListener listener = new RunListener() {
            @Override
            public void begins(LedgerLine.Step step) {
                hear.run();
            }

            @Override
            public void done(LedgerLine line, List<Finding> findings) {
                hear.run();
            }

            @Override
            public void stage(Stage stage) {
                hear.run();
            }

            @Override
            public void sliceStarted(TableName table) {
                hear.run();
            }

            @Override
            public void sliceFinished(TableName table) {
                hear.run();
            }
        };
        Crossing crossing = Crossing.read(Path.of(arguments[0]));
        if (arguments[2].equals("catch-up")) {
            CatchUp.of(crossing).listener(listener).run();
        } else {
            Run.of(crossing).listener(listener).run();
        }
        System.out.println(heard.get());
    }
}
