package org.orderlyferry.record;

import java.util.List;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;

/** Gives the records of another reader with columns of other types; a value that such a type can't hold is rejected. */
public final class ConvertedReader implements RecordReader {

    private final RecordReader reader;
    private final TableDefinition table;
    private final Conversion[] conversions;
    private final Rejects rejects;

    /**
     * A reader.
     *
     * @param table the same columns in the same order, with their types
     */
    public ConvertedReader(RecordReader reader, TableDefinition table, Rejects rejects) {
        this.reader = reader;
        this.table = table;
        this.rejects = rejects;
        List<ColumnDefinition> from = reader.table().columns();
        this.conversions = new Conversion[from.size()];
        for (int i = 0; i < conversions.length; i++) {
            conversions[i] = Conversion.between(
                    from.get(i).type(), table.columns().get(i).type());
        }
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        while (reader.read(batch)) {
            boolean[] unwanted = null;
            for (int row = 0; row < batch.rows(); row++) {
                try {
                    convert(batch, row);
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

    private void convert(RecordBatch batch, int row) {
        for (int column = 0; column < conversions.length; column++) {
            if (conversions[column] != null && !batch.isNull(row, column)) {
                try {
                    conversions[column].apply(batch, row, column);
                } catch (InvalidValueException e) {
                    throw new BadValueException(
                            batch.origin(row),
                            table.columns().get(column).name(),
                            batch.text(row, column),
                            e.getMessage());
                }
            }
        }
    }

    @Override
    public List<Finding> findings() {
        return reader.findings();
    }

    @Override
    public void close() {
        reader.close();
    }
}
