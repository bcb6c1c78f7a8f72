package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Query;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.Rejects;

/**
 * What is told of every piece of work that moves records out of a place: an {@link Export} and a {@link Load} are told it in the
 * same words. Not safe for use by several threads.
 *
 * @param <T> the work itself, which each of these gives back
 */
@NullMarked
public abstract sealed class Moving<T extends Moving<T>> permits Export, Load {

    private final Place source;
    private final List<String> patterns = new ArrayList<>();
    private final Map<String, String> cutBy = new LinkedHashMap<>();
    private long sliceRows = Cut.DEFAULT_ROWS;
    private long sliceBytes = Cut.DEFAULT_BYTES;
    private int lanes = 1;
    private long rowsPerSecond;
    private long bytesPerSecond;
    private Optional<Rejects> rejects = Optional.empty();
    private ProgressListener listener = ProgressListener.NONE;
    private StopSignal stop = new StopSignal();
    private Optional<PlanFile> plan = Optional.empty();
    private Optional<Elsewhere> elsewhere = Optional.empty();

    Moving(Place source) {
        this.source = source;
    }

    abstract T self();

    final Place source() {
        return source;
    }

    /** Only these tables; {@code *} in a name stands for any characters. */
    public T tables(String... names) {
        patterns.addAll(List.of(names));
        return self();
    }

    /**
     * How many slices move at once, at most; one unless told otherwise.
     *
     * @throws UsageException if there is none
     */
    public T lanes(int value) {
        if (value < 1) {
            throw new UsageException("records need at least one lane");
        }
        lanes = value;
        return self();
    }

    /**
     * How many records a slice of a large table or file has, about; {@link Cut#DEFAULT_ROWS} unless told otherwise.
     *
     * @throws UsageException if it has none
     */
    public T sliceRows(long value) {
        if (value < 1) {
            throw new UsageException("a slice has at least one record");
        }
        sliceRows = value;
        return self();
    }

    /**
     * How many bytes of a large table or file a slice has, about, where that is fewer records than {@link #sliceRows} says;
     * {@link Cut#DEFAULT_BYTES} unless told otherwise.
     *
     * @throws UsageException if it has none
     */
    public T sliceBytes(long value) {
        if (value < 1) {
            throw new UsageException("a slice has at least one byte");
        }
        sliceBytes = value;
        return self();
    }

    /** By which column a table is cut, instead of its primary key. */
    public T cutBy(String table, String column) {
        cutBy.put(table, column);
        return self();
    }

    /** How many records and bytes move a second, at most, all lanes together; 0 for any number. */
    public T pace(long rowsPerSecond, long bytesPerSecond) {
        this.rowsPerSecond = rowsPerSecond;
        this.bytesPerSecond = bytesPerSecond;
        return self();
    }

    /** Who hears of records that can't be taken; whoever the source was opened with unless told otherwise. */
    public T rejects(Rejects value) {
        rejects = Optional.of(value);
        return self();
    }

    /** Who hears of the work while it goes on; nobody unless told otherwise. */
    public T listener(ProgressListener value) {
        listener = value;
        return self();
    }

    /** What may end the work before its end, from another thread. */
    public T stopSignal(StopSignal value) {
        stop = value;
        return self();
    }

    /** Where the plan is kept, so that the work goes on by it after it was cut short; nowhere unless told otherwise. */
    public T plan(PlanFile value) {
        plan = Optional.of(value);
        return self();
    }

    /** Has the records moved by other processes, each of which opens both ends as the site says; by this one unless told otherwise. */
    @API(status = API.Status.INTERNAL)
    public T elsewhere(RemoteEngine engine, WorkSite site) {
        elsewhere = Optional.of(new Elsewhere(engine, site));
        return self();
    }

    final WorkOrder.Selection selection(List<Query> queries) {
        return new WorkOrder.Selection(patterns, queries, sliceRows, sliceBytes, cutBy);
    }

    final WorkOrder.Flow flow() {
        return new WorkOrder.Flow(lanes, rowsPerSecond, bytesPerSecond);
    }

    final TransferResult done(WorkOrder order, TargetPlace target, AtTheEnd end) {
        return new Conductor(order, source, target, rejects, listener, stop, plan, end, elsewhere).run();
    }
}
