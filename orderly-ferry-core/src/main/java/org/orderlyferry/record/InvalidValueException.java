package org.orderlyferry.record;

/** A text isn't a value of a type. The message completes a sentence that begins with the value. */
public final class InvalidValueException extends Exception {
    public InvalidValueException(String reason) {
        super(reason, null, false, false);
    }
}
