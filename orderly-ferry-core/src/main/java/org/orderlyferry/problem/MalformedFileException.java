package org.orderlyferry.problem;

/** A file isn't what its format says: it ends inside a value, a row has a value too many, a byte isn't valid. */
public final class MalformedFileException extends FerryException {

    private final Origin origin;
    private final String what;
    private final boolean ofEncoding;

    /** With what is wrong, as a part of a sentence. */
    public MalformedFileException(Origin origin, String what) {
        this(origin, what, false);
    }

    private MalformedFileException(Origin origin, String what, boolean ofEncoding) {
        super(origin + ": " + what, null);
        this.origin = origin;
        this.what = what;
        this.ofEncoding = ofEncoding;
    }

    /** A byte isn't valid in the encoding that the file was taken to be in. */
    public static MalformedFileException ofEncoding(Origin origin, String what) {
        return new MalformedFileException(origin, what, true);
    }

    /** Where in which file. */
    public Origin origin() {
        return origin;
    }

    /** What is wrong, without where. */
    public String what() {
        return what;
    }

    /** Whether another encoding might make the file whole. */
    public boolean isOfEncoding() {
        return ofEncoding;
    }
}
