package org.orderlyferry.problem;

import org.jspecify.annotations.Nullable;

/** What was asked for can't be done as asked: an unknown table, a target that is taken, options that contradict. */
public final class UsageException extends FerryException {
    /** With what is asked for and can't be done, as a sentence. */
    public UsageException(String message) {
        super(message, null);
    }

    /** With what is asked for and can't be done, as a sentence, and why. */
    public UsageException(String message, @Nullable Throwable cause) {
        super(message, cause);
    }
}
