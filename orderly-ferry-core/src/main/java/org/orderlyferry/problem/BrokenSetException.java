package org.orderlyferry.problem;

/** An export set isn't whole: a file is missing or changed, its version is unknown, a path leaves its folder. */
public final class BrokenSetException extends FerryException {

    private final String set;

    public BrokenSetException(String set, String what) {
        super("export set " + set + ": " + what, null);
        this.set = set;
    }

    public String set() {
        return set;
    }
}
