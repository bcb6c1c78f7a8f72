package org.orderlyferry.record;

import java.util.List;
import org.apiguardian.api.API;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;

/** Gives the records of another reader, each looked at and perhaps changed; one that can't be taken is rejected. */
@API(status = API.Status.INTERNAL)
public abstract class EachRecordReader implements RecordReader {

    private final RecordReader reader;
    private final Rejects rejects;

    /** A reader over another one, which it closes. */
    protected EachRecordReader(RecordReader reader, Rejects rejects) {
        this.reader = reader;
        this.rejects = rejects;
    }

    /**
     * Looks at a record.
     *
     * @throws BadValueException if it can't be taken
     */
    protected abstract void look(RecordBatch batch, int row);

    @Override
    public TableDefinition table() {
        return reader.table();
    }

    @Override
    public final boolean read(RecordBatch batch) {
        while (reader.read(batch)) {
            boolean[] unwanted = null;
            for (int row = 0; row < batch.rows(); row++) {
                try {
                    look(batch, row);
                } catch (BadValueException e) {
                    rejects.reject(e);
                    unwanted = unwanted == null ? new boolean[batch.rows()] : unwanted;
                    unwanted[row] = true;
                }
            }
            if (unwanted != null) {
                batch.removeRows(unwanted);
            }
            if (batch.rows() > 0) {
                return true;
            }
        }
        return false;
    }

    @Override
    public final List<Finding> findings() {
        return reader.findings();
    }

    @Override
    public final long leftOut() {
        return reader.leftOut();
    }

    @Override
    public final void close() {
        reader.close();
    }
}
