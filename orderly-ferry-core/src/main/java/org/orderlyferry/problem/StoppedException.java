package org.orderlyferry.problem;

/** The work was told to stop, by Ctrl-C or by the program that runs it. Nothing half-made is left. */
public final class StoppedException extends FerryException {
    /** There is nothing more to say. */
    public StoppedException() {
        super("stopped; nothing half-made is left", null);
    }
}
