package org.orderlyferry.record;

import org.orderlyferry.problem.FerryException;

/** Hears of each record that can't be taken. What it doesn't throw lets the others go on without that record. */
@FunctionalInterface
public interface Rejects {

    /** The first one ends the work. */
    Rejects STOP = why -> {
        throw why;
    };

    /**
     * A record that can't be taken.
     *
     * @param why has the file, the line and, where it is one value's fault, column and value
     */
    void reject(FerryException why);
}
