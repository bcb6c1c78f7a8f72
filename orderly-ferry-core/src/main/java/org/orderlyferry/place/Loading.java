package org.orderlyferry.place;

import java.util.List;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.RecordWriter;

/**
 * Tables on their way into a target. Until {@link #finish()} has returned, closing puts the target back as it was.
 * Not safe for use by several threads at once.
 */
public interface Loading extends AutoCloseable {

    /** A writer for one of the tables; to be finished and closed before the next one is asked for. */
    RecordWriter writer(TableName table);

    /** Adds keys, references and indexes, sets counters past the highest value, and makes it all last. */
    void finish();

    /** What arrives in another form than it left. Complete after {@link #finish()}. */
    List<Finding> findings();

    /** What the target can't take. */
    List<LeftBehind> leftBehind();

    @Override
    void close();
}
