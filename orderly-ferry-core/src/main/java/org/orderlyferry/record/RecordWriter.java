package org.orderlyferry.record;

/** Takes a table's records in batches. Not safe for use by several threads at once. */
public interface RecordWriter extends AutoCloseable {

    /**
     * Writes all records of a batch, whose values it may change in place where it fits them. The batch may be used again as
     * soon as this returns.
     *
     * @throws org.orderlyferry.problem.FerryException if the place fails or refuses a record
     */
    void write(RecordBatch batch);

    /**
     * Brings everything to where it belongs. Without this call, what was written doesn't count.
     */
    void finish();

    /** Lets go of what the writer holds; after {@link #finish()} or instead of it. */
    @Override
    void close();
}
