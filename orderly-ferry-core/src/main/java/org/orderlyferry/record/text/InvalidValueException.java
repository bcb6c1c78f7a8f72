package org.orderlyferry.record.text;

import org.jspecify.annotations.NullMarked;

/** A text isn't a value of a type. The message completes a sentence that begins with the value. */
@NullMarked
public final class InvalidValueException extends Exception {

    private boolean outOfRange;

    /** With what is wrong, as a part of a sentence. */
    public InvalidValueException(String reason) {
        super(reason, null, false, false);
    }

    /** For a value that is a proper one in its own system, and that no other system could hold. */
    public static InvalidValueException outOfRange(String message) {
        InvalidValueException exception = new InvalidValueException(message);
        exception.outOfRange = true;
        return exception;
    }

    /** Whether the value is a proper one in its own system. */
    public boolean isOutOfRange() {
        return outOfRange;
    }
}
