package org.orderlyferry.record;

import org.apiguardian.api.API;
import org.orderlyferry.problem.BadValueException;

/** Gives the records of another reader, each looked at and perhaps changed; one that can't be taken is rejected. */
@API(status = API.Status.INTERNAL)
public abstract class EachRecordReader extends ForwardingReader {

    private final Rejects rejects;

    /** A reader over another one, which it closes. */
    protected EachRecordReader(RecordReader reader, Rejects rejects) {
        super(reader);
        this.rejects = rejects;
    }

    /**
     * Looks at a record.
     *
     * @throws BadValueException if it can't be taken
     */
    protected abstract void look(RecordBatch batch, int row);

    @Override
    public final boolean read(RecordBatch batch) {
        while (super.read(batch)) {
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
}
