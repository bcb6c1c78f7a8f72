package org.orderlyferry.record;

import java.util.List;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;

/**
 * Gives a table's records in batches. Not safe for use by several threads at once.
 *
 * <pre>{@code
 * RecordBatch batch = new RecordBatch();
 * while (reader.read(batch)) {
 *     for (int row = 0; row < batch.rows(); row++) { … batch.text(row, 0) … }
 * }
 * }</pre>
 */
public interface RecordReader extends AutoCloseable {

    /** The table and, in the order of each record's values, its columns. */
    TableDefinition table();

    /**
     * Fills a batch with the next records; what it held before is gone.
     *
     * @return false, and an empty batch, when there are no more
     * @throws org.orderlyferry.problem.FerryException if the place fails or a record can't be read
     */
    boolean read(RecordBatch batch);

    /** What a person should know about what was read so far, although nothing of it is lost. */
    default List<Finding> findings() {
        return List.of();
    }

    /** How many records of those read so far a condition has left out. */
    default long leftOut() {
        return 0;
    }

    @Override
    void close();
}
