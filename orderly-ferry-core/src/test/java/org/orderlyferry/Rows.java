package org.orderlyferry;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** Records as lists of texts, for tests. */
public final class Rows {

    private Rows() {}

    /** A table of text columns a, b, c … */
    public static TableDefinition texts(int columns) {
        TableDefinition.Builder table = TableDefinition.named("label");
        for (int i = 0; i < columns; i++) {
            table.column(String.valueOf((char) ('a' + i)), LogicalType.CLOB);
        }
        return table.build();
    }

    /** A batch that holds these rows. */
    public static RecordBatch batch(List<List<String>> rows, int columns) {
        RecordBatch batch = new RecordBatch();
        batch.start(columns, "label", "test", false);
        long number = 0;
        for (List<String> row : rows) {
            for (String value : row) {
                if (value == null) {
                    batch.addNull();
                } else {
                    batch.add(value.getBytes(StandardCharsets.UTF_8));
                }
            }
            batch.endRow(++number);
        }
        return batch;
    }

    /** All that a reader gives. */
    public static List<List<String>> all(RecordReader reader) {
        List<List<String>> rows = new ArrayList<>();
        RecordBatch batch = new RecordBatch();
        try (reader) {
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    List<String> values = new ArrayList<>();
                    for (int column = 0; column < batch.columns(); column++) {
                        values.add(batch.text(row, column));
                    }
                    rows.add(values);
                }
            }
        }
        return rows;
    }
}
