package org.orderlyferry.record;

import org.orderlyferry.problem.FerryException;

/** Hears of each record that can't be taken. What it doesn't throw lets the others go on without that record. */
@FunctionalInterface
public interface Rejects {

    /** The first one ends the work. */
    Rejects STOP = why -> {
        throw why;
    };

    /** Hears of records that are only counted or looked at, and will be told when they move. */
    Rejects UNHEARD = why -> {
        // told later
    };

    /**
     * A record that can't be taken.
     *
     * @param why has the file, the line and, where it is one value's fault, column and value
     */
    void reject(FerryException why);

    /**
     * Hears for one attempt at moving a slice: if it fails and is made again, what this attempt rejected counts as never
     * heard.
     */
    default Attempt attempt() {
        return new PlainAttempt(this);
    }

    /** The rejects of one attempt. */
    interface Attempt extends Rejects {

        /** How many were heard so far. */
        long count();

        /** The attempt is the one that counts; to be called once, and nothing is heard after it. */
        void keep();

        /** The attempt is made again, and its rejects were never heard. */
        void drop();
    }
}
