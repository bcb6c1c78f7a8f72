package org.orderlyferry.problem;

import org.jspecify.annotations.Nullable;

/**
 * Any failure that a person must hear of. Each kind holds its facts as fields and makes its own message: what was
 * wrong, where, and what to do next.
 */
public abstract sealed class FerryException extends RuntimeException
        permits UsageException,
                PlaceException,
                BadValueException,
                BadRecordException,
                MalformedFileException,
                BrokenSetException,
                StoppedException {

    FerryException(String message, @Nullable Throwable cause) {
        super(message, cause);
    }

    /** What was wrong, where, and what to do next; never null. */
    @Override
    public String getMessage() {
        return String.valueOf(super.getMessage());
    }
}
