package org.orderlyferry.problem;

/** What was asked for can't be done as asked: an unknown table, a target that is taken, options that contradict. */
public final class UsageException extends FerryException {
    public UsageException(String message) {
        super(message, null);
    }

    public UsageException(String message, Throwable cause) {
        super(message, cause);
    }
}
