package org.orderlyferry.exportset;

import java.util.Iterator;
import java.util.List;
import java.util.function.Supplier;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** Gives the records of several readers, one after the other. */
final class ChainedReader implements RecordReader {

    private final Iterator<Supplier<RecordReader>> following;
    private RecordReader reader;

    ChainedReader(List<Supplier<RecordReader>> readers) {
        this.following = readers.iterator();
        this.reader = following.next().get();
    }

    @Override
    public TableDefinition table() {
        return reader.table();
    }

    @Override
    public boolean read(RecordBatch batch) {
        while (!reader.read(batch)) {
            if (!following.hasNext()) {
                return false;
            }
            reader.close();
            reader = following.next().get();
        }
        return true;
    }

    @Override
    public void close() {
        reader.close();
    }
}
