package org.orderlyferry.format;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.EachRecordReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.InvalidValueException;

/** Brings values that a file writes in another way to their value text. */
@API(status = API.Status.INTERNAL)
public final class StyledReader extends EachRecordReader {

    private final List<ColumnDefinition> columns;
    private final ValueStyle[] styles;

    private StyledReader(RecordReader reader, ValueStyle[] styles, Rejects rejects) {
        super(reader, rejects);
        this.columns = reader.table().columns();
        this.styles = styles;
    }

    /** The reader itself where no value looks other than its value text. */
    public static RecordReader of(RecordReader reader, Map<String, ValueStyle> byColumn, Rejects rejects) {
        List<ColumnDefinition> columns = reader.table().columns();
        ValueStyle[] styles = new ValueStyle[columns.size()];
        boolean any = false;
        for (int i = 0; i < styles.length; i++) {
            ValueStyle style = byColumn.get(columns.get(i).name());
            if (style != null && style.changes(columns.get(i).type())) {
                styles[i] = style;
                any = true;
            }
        }
        return any ? new StyledReader(reader, styles, rejects) : reader;
    }

    @Override
    protected void look(RecordBatch batch, int row) {
        for (int column = 0; column < styles.length; column++) {
            if (styles[column] != null && !batch.isNull(row, column)) {
                ColumnDefinition definition = columns.get(column);
                String text = batch.text(row, column);
                try {
                    String value = styles[column].read(text, definition.type());
                    if (!value.equals(text)) {
                        batch.replace(row, column, value.getBytes(StandardCharsets.UTF_8));
                    }
                } catch (InvalidValueException e) {
                    throw new BadValueException(batch.origin(row), definition.name(), text, e.getMessage());
                }
            }
        }
    }
}
