package org.orderlyferry.crossing;

import java.util.List;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.model.Finding;
import org.orderlyferry.progress.ProgressListener;

/** Hears how a run goes on: its steps, and within a step what every other work tells. */
@NullMarked
public interface RunListener extends ProgressListener {

    /** A listener that does nothing. */
    RunListener SILENT = new RunListener() {};

    /**
     * A run begins, or goes on.
     *
     * @param name of the run: the moment when it first began
     * @param goingOn whether it was cut short before
     */
    default void run(String name, boolean goingOn) {}

    /**
     * Another process has worked on the crossing's runs and may still do so: some seconds pass until that is seen, where the file
     * system that the runs are in has no locks.
     */
    default void waits() {}

    /** A step begins. */
    default void begins(LedgerLine.Step step) {}

    /**
     * A step is done, by this process or one before it.
     *
     * @param line what the ledger says of it
     * @param findings what a person should know
     */
    default void done(LedgerLine line, List<Finding> findings) {}
}
