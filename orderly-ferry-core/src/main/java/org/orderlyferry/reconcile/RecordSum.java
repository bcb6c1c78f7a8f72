package org.orderlyferry.reconcile;

import org.apiguardian.api.API;
import org.orderlyferry.tally.Digest;

/**
 * How many records there are, and the sum of their hashes in the forms of a comparison.
 *
 * @param rows how many
 * @param digest the sum
 */
@API(status = API.Status.INTERNAL)
public record RecordSum(long rows, Digest digest) {

    /** No record. */
    public static final RecordSum NONE = new RecordSum(0, Digest.ZERO);

    RecordSum plus(RecordSum other) {
        return new RecordSum(rows + other.rows, digest.plus(other.digest));
    }

    /** Without some that it has. */
    public RecordSum minus(RecordSum other) {
        return new RecordSum(rows - other.rows, digest.minus(other.digest));
    }
}
