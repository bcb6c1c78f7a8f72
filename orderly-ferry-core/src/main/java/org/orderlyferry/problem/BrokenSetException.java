package org.orderlyferry.problem;

/** An export set isn't whole: a file is missing or changed, its version is unknown, a path leaves its folder. */
public final class BrokenSetException extends FerryException {

    private final String set;
    private final String what;

    /** With what is wrong, as a part of a sentence. */
    public BrokenSetException(String set, String what) {
        super("export set " + set + ": " + what, null);
        this.set = set;
        this.what = what;
    }

    /** Where the set is. */
    public String set() {
        return set;
    }

    /** What is wrong with it. */
    public String what() {
        return what;
    }
}
