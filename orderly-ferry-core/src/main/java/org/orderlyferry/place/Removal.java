package org.orderlyferry.place;

import java.util.function.Supplier;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.RecordReader;

/**
 * Records that are to go out of a table.
 *
 * @param key the table as the target has it, with the columns of its key alone
 * @param keys the records' keys, from their beginning each time; whoever asks for them closes them
 */
@NullMarked
public record Removal(TableDefinition key, Supplier<RecordReader> keys) {

    /** Out of which table. */
    public TableName table() {
        return key.name();
    }
}
