package org.orderlyferry.problem;

import org.jspecify.annotations.Nullable;

/** A target refuses a record as a whole: it breaks a key, a reference or a check, or one of its values. */
public final class BadRecordException extends FerryException {

    private final Origin origin;
    private final String key;
    private final String reason;

    /**
     * Of a record.
     *
     * @param origin where the record came from
     * @param table the target's table
     * @param key the record's key, as {@code column = value}
     * @param reason what the target says
     * @param cause what the system or driver threw; may be null
     */
    public BadRecordException(Origin origin, String table, String key, String reason, @Nullable Throwable cause) {
        super(
                origin + ": table " + table + " refuses the record" + (key.isEmpty() ? "" : " with " + key) + ": "
                        + reason,
                cause);
        this.origin = origin;
        this.key = key;
        this.reason = reason;
    }

    /** What the target says. */
    public String reason() {
        return reason;
    }

    /** Where the record comes from. */
    public Origin origin() {
        return origin;
    }

    /** The record's key, for people. */
    public String key() {
        return key;
    }
}
