package org.orderlyferry.problem;

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

    FerryException(String message, Throwable cause) {
        super(message, cause);
    }
}
