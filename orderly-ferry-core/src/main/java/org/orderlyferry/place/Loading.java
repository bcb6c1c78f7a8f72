package org.orderlyferry.place;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.RecordWriter;

/**
 * Tables on their way into a target. Until {@link #finish()} has returned, closing puts the target back as it was.
 * Only {@link #writer} may be called by several threads at once.
 */
public interface Loading extends AutoCloseable {

    /**
     * A writer for records of one of the tables, with the columns of its definition. Its records count once it is
     * finished, all of them at once. No more are open at a time than {@link TargetPlace#mostLanes()}.
     */
    RecordWriter writer(TableName table);

    /** Adds keys, references and indexes, sets counters past the highest value, and makes it all last. */
    void finish();

    /** What a merge did to a table that was there; empty for other modes and tables. Complete after {@link #finish()}. */
    Optional<Merged> merged(TableName table);

    /** Whether a load that was only tried found values that the target would refuse. */
    default boolean isRefused() {
        return false;
    }

    /** What arrives in another form than it left. Complete after {@link #finish()}. */
    List<Finding> findings();

    /** What the target can't take. */
    List<LeftBehind> leftBehind();

    @Override
    void close();
}
