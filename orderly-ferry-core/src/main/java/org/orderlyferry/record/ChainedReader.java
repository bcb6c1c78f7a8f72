package org.orderlyferry.record;

import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.function.Supplier;
import org.apiguardian.api.API;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;

/**
 * Gives the records of several readers, one after the other; each is opened when the one before it is at its end. Not safe
 * for use by several threads, but for {@link #leftOut()}.
 */
@API(status = API.Status.INTERNAL)
public final class ChainedReader implements RecordReader {

    private final Iterator<Supplier<RecordReader>> following;
    private final List<Finding> findings = new ArrayList<>();
    private RecordReader reader;
    private volatile long leftOut;

    private ChainedReader(List<Supplier<RecordReader>> readers) {
        this.following = readers.iterator();
        this.reader = following.next().get();
    }

    /**
     * Opens the first.
     *
     * @param readers at least one, all of the same columns
     */
    public static RecordReader of(List<Supplier<RecordReader>> readers) {
        return readers.size() == 1 ? readers.get(0).get() : new ChainedReader(readers);
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
            findings.addAll(reader.findings());
            leftOut += reader.leftOut();
            reader.close();
            reader = following.next().get();
        }
        return true;
    }

    @Override
    public List<Finding> findings() {
        List<Finding> all = new ArrayList<>(findings);
        all.addAll(reader.findings());
        return all;
    }

    @Override
    public long leftOut() {
        return leftOut + reader.leftOut();
    }

    @Override
    public void close() {
        reader.close();
    }
}
