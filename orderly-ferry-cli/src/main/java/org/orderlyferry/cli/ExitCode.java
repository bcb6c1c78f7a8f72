package org.orderlyferry.cli;

import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.UsageException;

/** What the process's exit code says. */
final class ExitCode {

    /** Done, and reconciled where that was asked for. */
    static final int DONE = 0;
    /** Done, with differences. */
    static final int DIFFERENCES = 1;
    /** Wrong usage: nothing was changed. */
    static final int USAGE = 2;
    /** A place failed: nothing half-made is left. */
    static final int FAILED = 3;

    private ExitCode() {}

    static int of(FerryException failure) {
        return failure instanceof UsageException ? USAGE : FAILED;
    }
}
