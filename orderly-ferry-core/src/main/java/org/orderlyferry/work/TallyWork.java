package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.ConcurrentHashMap;
import org.apiguardian.api.API;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.progress.Crew;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.tally.ComparisonForm;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.tally.TallyTaker;

/** Reads tables of a place for their tallies alone: the same work as a move, with nowhere to go. For one use. */
@API(status = API.Status.INTERNAL)
public final class TallyWork {

    /** Where a server takes digests by one lane alone, a table is cut for no more than to show how it goes on. */
    private static final long OWN_ROWS = 10 * Cut.DEFAULT_ROWS;

    private final Place place;
    private final List<Wanted> wanted;
    private final ProgressListener told;
    private final Crew crew;
    private final List<SliceTask> tasks = new ArrayList<>();
    private final List<Witnesses> witnesses = new ArrayList<>();
    private long rowsPerSecond;
    private long bytesPerSecond;
    private Optional<Elsewhere> elsewhere = Optional.empty();
    private OptionalLong seed = OptionalLong.empty();
    private long sliceRows = Cut.DEFAULT_ROWS;
    private Optional<TallyLedger> ledger = Optional.empty();
    private final Map<Integer, SliceResult> known = new HashMap<>();
    private final Map<TableName, Wanted> byTable = new ConcurrentHashMap<>();
    private final Map<TableName, TableSum> sums = new ConcurrentHashMap<>();
    private final List<Finding> findings = java.util.Collections.synchronizedList(new ArrayList<>());

    /**
     * A table to be tallied.
     *
     * @param columns which columns, in the order in which the tally takes them
     * @param forms in which form each is compared
     */
    public record Wanted(TableName table, List<String> columns, List<ComparisonForm> forms) {
        public Wanted {
            columns = List.copyOf(columns);
            forms = List.copyOf(forms);
        }
    }

    /**
     * What there is to do.
     *
     * @param told hears how it goes on
     * @param crew stops all sides when one fails
     */
    public TallyWork(Place place, List<Wanted> wanted, ProgressListener told, Crew crew) {
        this.place = place;
        this.wanted = List.copyOf(wanted);
        this.told = told;
        this.crew = crew;
    }

    /** See a table's records while they are tallied. Called by several threads, and for one slice by one at a time. */
    public interface Witnesses {

        /** How many records a slice is to have, about; where it is less than usual, tables are cut for one lane too. */
        default long sliceRows() {
            return Cut.DEFAULT_ROWS;
        }

        /** An attempt at reading a slice begins; what an earlier attempt has seen doesn't count. */
        void attend(TallyTaker taker, TableName table, Slice slice, int number);

        /**
         * The last attempt at it has come to its end.
         *
         * @return what is to be kept of the slice besides its tally, for {@link #restored}; in a form of its own
         */
        String done(int number);

        /** What of its own decides what it keeps: whoever looks for something else can't go on with it. */
        default String looksFor() {
            return "";
        }

        /**
         * A slice was read before, by a process that has come to an end.
         *
         * @param kept what {@link #done} gave
         * @return false if that isn't there any more, so that the slice is to be read again
         */
        default boolean restored(TableName table, Slice slice, Tally tally, String kept) {
            return true;
        }
    }

    /** Where what is tallied is kept, slice by slice; there is nothing kept unless told otherwise. */
    public TallyWork ledger(TallyLedger value) {
        ledger = Optional.of(value);
        return this;
    }

    /** How many records and bytes of values are read a second, at most; 0 for any number. */
    public TallyWork pace(long rowsPerSecond, long bytesPerSecond) {
        this.rowsPerSecond = rowsPerSecond;
        this.bytesPerSecond = bytesPerSecond;
        return this;
    }

    /** How many records a slice has, about; larger tables are cut. */
    public TallyWork sliceRows(long value) {
        sliceRows = value;
        return this;
    }

    /** More who see the records besides. */
    public TallyWork witnesses(Witnesses value) {
        witnesses.add(value);
        return this;
    }

    /**
     * Has it done by other processes, where nobody has to see single records; by this one unless told otherwise.
     *
     * @param site how the place is opened there, as its source
     */
    public TallyWork elsewhere(RemoteEngine engine, WorkSite site) {
        elsewhere = Optional.of(new Elsewhere(engine, site));
        return this;
    }

    /**
     * Has the place's own server do it, where nobody has to see single records, nor what columns have.
     *
     * @param value the seed of its digests
     */
    public TallyWork byServer(long value) {
        seed = OptionalLong.of(value);
        return this;
    }

    /**
     * Does it.
     *
     * @param lanes how many slices are read at once, at most
     * @return a tally for each table that is wanted, in their order
     */
    public List<Tally> run(int lanes) {
        if ((elsewhere.isPresent() || seed.isPresent()) && !witnesses.isEmpty()) {
            throw new IllegalStateException("others don't show single records");
        }
        if (seed.isPresent() && lanes == 1) {
            sliceRows = Math.max(sliceRows, OWN_ROWS);
        }
        try (Hands hands = Hands.into(place, elsewhere.isPresent() ? 1 : lanes)) {
            findings.addAll(hands.findings());
            planned(elsewhere.isPresent() || seed.isPresent() || hands.all().size() > 1);
            Sums events = new Sums();
            tasks.stream()
                    .filter(t -> known.containsKey(t.number()))
                    .forEach(t -> events.counted(t, known.get(t.number())));
            WorkOrder.Flow flow = new WorkOrder.Flow(lanes, rowsPerSecond, bytesPerSecond);
            elsewhere
                    .map(e -> e.engine(place, wanted, flow, crew, told))
                    .orElseGet(() -> here(hands))
                    .run(tasks, events);
        }
        return wanted.stream().map(w -> sums.get(w.table()).result().tally()).toList();
    }

    private Engine here(Hands hands) {
        if (seed.isPresent()) {
            return new LocalEngine(hands, (task, way) -> own(task, way, seed.getAsLong()), crew);
        }
        SliceWorker worker = new SliceWorker(
                null,
                task -> {
                    Wanted table = byTable.get(task.part().table());
                    TallyTaker taker = new TallyTaker(table.columns(), table.forms());
                    witnesses.forEach(w -> w.attend(taker, table.table(), slice(task), task.number()));
                    return taker;
                },
                null,
                table -> Optional.empty(),
                place.rejects(),
                new Pace(rowsPerSecond, bytesPerSecond),
                told,
                crew::check);
        return new LocalEngine(hands, worker::run, crew);
    }

    /** A slice whose records stay where they are. */
    private SliceResult own(SliceTask task, Place way, long with) {
        Tally tally = way.ownDigests().orElseThrow().of(slice(task), with);
        told.moved(task.part().table(), tally.rows(), 0);
        return new SliceResult(task.part(), tally.rows(), 0, 0, 0, 0, tally, tally, List.of());
    }

    /** What a person should know of what was read. */
    public List<Finding> findings() {
        return List.copyOf(findings);
    }

    private static Slice slice(SliceTask task) {
        return ((SliceSource.OfTable) task.source()).slice();
    }

    /** The slices that a ledger keeps, or new ones. */
    private void planned(boolean cut) {
        // a file that was edited in between is another one, which is looked at only where something is to be gone on
        // with
        String all = WorkJson.hash(Map.of(
                "place",
                place.address(),
                "state",
                ledger.flatMap(l -> place.state()).orElse(""),
                "wanted",
                wanted,
                "witnesses",
                witnesses.stream().map(Witnesses::looksFor).toList()));
        Optional<List<SliceTask>> before = ledger.flatMap(l -> l.tasks(all));
        for (Wanted table : wanted) {
            crew.check();
            byTable.put(table.table(), table);
            if (before.isPresent()) {
                long slices = before.get().stream()
                        .filter(t -> t.part().table().equals(table.table()))
                        .count();
                sums.put(table.table(), new TableSum(table.table(), Math.toIntExact(slices)));
            } else {
                plan(table, cut || ledger.isPresent());
            }
        }
        before.ifPresent(tasks::addAll);
        ledger.ifPresent(l -> {
            if (before.isEmpty()) {
                l.planned(all, tasks);
            }
            l.results().forEach((number, kept) -> {
                if (isRestored(tasks.get(number), kept)) {
                    known.put(number, kept.result());
                }
            });
            l.trust(known.size());
        });
    }

    private boolean isRestored(SliceTask task, TallyLedger.Kept kept) {
        boolean all = kept.seen().size() == witnesses.size();
        for (int i = 0; all && i < witnesses.size(); i++) {
            all = witnesses
                    .get(i)
                    .restored(
                            task.part().table(),
                            slice(task),
                            kept.result().tally(),
                            kept.seen().get(i));
        }
        return all;
    }

    private void plan(Wanted table, boolean cut) {
        TableDefinition definition = place.define(table.table());
        long rows = witnesses.stream()
                .mapToLong(Witnesses::sliceRows)
                .reduce(seed.isPresent() ? sliceRows : Math.min(sliceRows, Cut.DEFAULT_ROWS), Math::min);
        Cut how = new Cut(
                rows,
                Map.of(),
                witnesses.isEmpty() && ledger.isEmpty() && elsewhere.isEmpty()
                        ? Cut.Standing.WHERE_SCATTERED
                        : Cut.Standing.NEVER);
        List<Slice> slices = cut || rows < Cut.DEFAULT_ROWS
                ? place.cut(definition, place.estimate(table.table()), how)
                : List.of(Slice.whole(definition));
        sums.put(table.table(), new TableSum(table.table(), slices.size()));
        for (int i = 0; i < slices.size(); i++) {
            Slice slice = slices.get(i);
            Slice some = new Slice(table.table(), table.columns(), slice.range(), slice.piece());
            tasks.add(new SliceTask(
                    new TablePart(tasks.size(), table.table(), i + 1, slices.size()), new SliceSource.OfTable(some)));
        }
    }

    /** Adds tallies up. */
    private final class Sums implements Engine.Events {

        @Override
        public boolean isWanted(SliceTask task) {
            return !known.containsKey(task.number());
        }

        @Override
        public void started(SliceTask task) {
            if (sums.get(task.part().table()).begin()) {
                told.tableStarted(task.part().table(), 0);
            }
        }

        @Override
        public void tryingAgain(SliceTask task, PlaceException failure, long pauseMillis) {
            told.tryingAgain(task.part().table(), failure.getMessage(), pauseMillis);
        }

        @Override
        public void done(SliceTask task, SliceResult result) {
            List<String> seen =
                    witnesses.stream().map(w -> w.done(task.number())).toList();
            ledger.ifPresent(l -> l.done(result, seen));
            counted(task, result);
        }

        /** Adds a slice that this process has tallied, or one before it. */
        void counted(SliceTask task, SliceResult result) {
            findings.addAll(result.findings());
            TableSum sum = sums.get(task.part().table());
            if (sum.add(result)) {
                told.tableFinished(task.part().table(), sum.rows());
            }
        }

        @Override
        public void failed(SliceTask task, PlaceException failure) {
            throw failure;
        }
    }
}
