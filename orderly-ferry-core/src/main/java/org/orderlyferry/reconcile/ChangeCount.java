package org.orderlyferry.reconcile;

import org.apiguardian.api.API;

/**
 * How a table of a source differs from its partner at a target.
 *
 * @param inserted records whose key the target doesn't have
 * @param updated records whose key it has, with other values
 * @param unchanged records that it has as they are
 * @param missing records that it has, and the source doesn't
 */
@API(status = API.Status.INTERNAL)
public record ChangeCount(long inserted, long updated, long unchanged, long missing) {

    /** Of a table that wasn't looked at. */
    public static final ChangeCount NONE = new ChangeCount(0, 0, 0, 0);

    ChangeCount plus(ChangeCount other) {
        return new ChangeCount(
                inserted + other.inserted,
                updated + other.updated,
                unchanged + other.unchanged,
                missing + other.missing);
    }
}
