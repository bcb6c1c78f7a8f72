package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.Rejects;

/**
 * Loads tables of an export set, or of any other place, into a target: creates them, moves the records, adds keys,
 * references and indexes. If anything fails, the target is as it was. Not safe for use by several threads.
 *
 * <pre>{@code
 * try (Place set = Places.open("set"); TargetPlace target = Places.openTarget("herbarium.sqlite")) {
 *     TransferResult result = Load.from(set).into(target);
 * }
 * }</pre>
 */
public final class Load {

    private final Place source;
    private final List<String> patterns = new ArrayList<>();
    private LoadMode mode = LoadMode.CREATE;
    private int lanes = 1;
    private long sliceRows = Cut.DEFAULT_ROWS;
    private boolean rehearsal;
    private boolean acceptChanges;
    private Optional<Rejects> rejects = Optional.empty();
    private long rowsPerSecond;
    private long bytesPerSecond;
    private ProgressListener listener = ProgressListener.NONE;
    private StopSignal stop = new StopSignal();
    private Optional<PlanFile> plan = Optional.empty();

    private Load(Place source) {
        this.source = source;
    }

    /** A load of all the place's tables, unless told otherwise. */
    public static Load from(Place source) {
        return new Load(source);
    }

    /** Only these tables; {@code *} in a name stands for any characters. */
    public Load tables(String... names) {
        patterns.addAll(List.of(names));
        return this;
    }

    /** What is done with tables that are there already; {@link LoadMode#CREATE} unless told otherwise. */
    public Load mode(LoadMode value) {
        mode = value;
        return this;
    }

    /** Whether only to look what would happen: each value is checked, and the target stays as it is. */
    public Load rehearsal(boolean value) {
        rehearsal = value;
        return this;
    }

    /** How many writers work at once, at most; one unless told otherwise. */
    public Load lanes(int value) {
        if (value < 1) {
            throw new UsageException("a load needs at least one lane");
        }
        lanes = value;
        return this;
    }

    /** How many records a slice of a large table or file has, about; a million unless told otherwise. */
    public Load sliceRows(long value) {
        if (value < 1) {
            throw new UsageException("a slice has at least one record");
        }
        sliceRows = value;
        return this;
    }

    /** How many records and bytes move a second, at most; 0 for any number. */
    public Load pace(long rowsPerSecond, long bytesPerSecond) {
        this.rowsPerSecond = rowsPerSecond;
        this.bytesPerSecond = bytesPerSecond;
        return this;
    }

    /** Whether a set is taken although its files aren't those that it was made with; each value is still checked. */
    public Load acceptChanges(boolean value) {
        acceptChanges = value;
        return this;
    }

    /** Who hears of records that can't be taken; whoever the source was opened with unless told otherwise. */
    public Load rejects(Rejects value) {
        rejects = Optional.of(value);
        return this;
    }

    public Load listener(ProgressListener value) {
        listener = value;
        return this;
    }

    /** Where the plan is kept, so that the work goes on by it after it was cut short; nowhere unless told otherwise. */
    public Load plan(PlanFile value) {
        plan = Optional.of(value);
        return this;
    }

    public Load stopSignal(StopSignal value) {
        stop = value;
        return this;
    }

    /**
     * Does it.
     *
     * @throws org.orderlyferry.problem.UsageException if what is there doesn't allow it; nothing was changed then
     * @throws org.orderlyferry.problem.FerryException if it fails; the target is as it was then
     */
    public TransferResult into(TargetPlace target) {
        WorkOrder order = new WorkOrder(
                WorkOrder.Kind.LOAD,
                WorkEnd.of(source.address()),
                WorkEnd.of(target.address()),
                new WorkOrder.Selection(patterns, List.of(), sliceRows, Map.of()),
                new WorkOrder.Handling(mode, rehearsal, acceptChanges),
                new WorkOrder.Flow(lanes, rowsPerSecond, bytesPerSecond));
        return new Conductor(order, source, target, rejects, listener, stop, plan).run();
    }
}
