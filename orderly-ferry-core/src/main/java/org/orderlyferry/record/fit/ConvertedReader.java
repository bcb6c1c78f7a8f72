package org.orderlyferry.record.fit;

import java.util.List;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.EachRecordReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.InvalidValueException;

/** Gives the records of another reader with columns of other types; a value that such a type can't hold is rejected. */
public final class ConvertedReader extends EachRecordReader {

    private final TableDefinition table;
    private final Conversion[] conversions;

    /**
     * A reader.
     *
     * @param table the same columns in the same order, with their types
     */
    public ConvertedReader(RecordReader reader, TableDefinition table, Rejects rejects) {
        super(reader, rejects);
        this.table = table;
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
    protected void look(RecordBatch batch, int row) {
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
}
