package org.orderlyferry.reconcile;

import org.apiguardian.api.API;

/**
 * How a table of a source differs from its partner at a target.
 *
 * @param inserted records whose key the target doesn't have
 * @param updated records whose key it has, with other values
 * @param unchanged records that it has as they are
 * @param missing records that it has, and the source doesn't
 * @param after what the target has when the inserted and the updated ones are in and the missing ones still there
 * @param gone the missing ones
 */
@API(status = API.Status.INTERNAL)
public record ChangeCount(long inserted, long updated, long unchanged, long missing, RecordSum after, RecordSum gone) {

    /** Of a table that wasn't looked at. */
    public static final ChangeCount NONE = ofEqual(0);

    /** Of a table of which all records are as they were. */
    public static ChangeCount ofEqual(long rows) {
        return new ChangeCount(0, 0, rows, 0, RecordSum.NONE, RecordSum.NONE);
    }

    ChangeCount plus(ChangeCount other) {
        return new ChangeCount(
                inserted + other.inserted,
                updated + other.updated,
                unchanged + other.unchanged,
                missing + other.missing,
                after.plus(other.after),
                gone.plus(other.gone));
    }
}
