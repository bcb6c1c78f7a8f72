package org.orderlyferry.problem;

/** A file isn't what its format says: it ends inside a value, a row has a value too many, a byte isn't valid. */
public final class MalformedFileException extends FerryException {

    private final Origin origin;
    private final String what;

    public MalformedFileException(Origin origin, String what) {
        super(origin + ": " + what, null);
        this.origin = origin;
        this.what = what;
    }

    public Origin origin() {
        return origin;
    }

    /** What is wrong, without where. */
    public String what() {
        return what;
    }
}
