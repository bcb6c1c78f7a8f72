package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.Crew;
import org.orderlyferry.progress.OneAtATime;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.progress.Stoppable;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.Tally;

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
    private boolean rehearsal;
    private boolean acceptChanges;
    private Optional<Rejects> rejects = Optional.empty();
    private Pace pace = new Pace(0, 0);
    private ProgressListener listener = ProgressListener.NONE;
    private StopSignal stop = new StopSignal();

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

    /** How many records and bytes move a second, at most; 0 for any number. */
    public Load pace(long rowsPerSecond, long bytesPerSecond) {
        pace = new Pace(rowsPerSecond, bytesPerSecond);
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
        return Stoppable.run(
                stop,
                () -> {
                    source.cancel();
                    target.cancel();
                },
                () -> loaded(target));
    }

    private TransferResult loaded(TargetPlace target) {
        ProgressListener told = new OneAtATime(listener);
        told.stage(ProgressListener.Stage.CHECKING);
        if (!acceptChanges) {
            source.verify();
        }
        told.stage(ProgressListener.Stage.PLANNING);
        try (Hands hands = Hands.into(source, Math.min(lanes, target.mostLanes()))) {
            List<TableDefinition> tables = LoadingOrder.of(TableChoice.of(source, patterns).stream()
                    .map(source::define)
                    .toList());
            List<Work> works = plan(tables, told);
            try (Loading loading = rehearsal ? target.rehearse(tables, mode) : target.begin(tables, mode)) {
                return new Moving(loading, hands, works, told).run();
            }
        }
    }

    private List<Work> plan(List<TableDefinition> tables, ProgressListener told) {
        List<Work> works = new ArrayList<>();
        long all = 0;
        for (TableDefinition table : tables) {
            stop.check();
            source.check(table);
            Optional<Tally> kept = source.keptTally(table.name());
            long rows = kept.isPresent() ? kept.get().rows() : source.estimate(table.name());
            List<Slice> slices = source.cut(table, rows, Cut.DEFAULT);
            TableSum sum = new TableSum(table.name(), slices.size());
            slices.forEach(s -> works.add(new Work(table, rows, sum, s)));
            all += rows;
        }
        told.planned(tables.stream().map(TableDefinition::name).toList(), all);
        return works;
    }

    private record Work(TableDefinition table, long rows, TableSum sum, Slice slice) {}

    /** A load whose plan is made. */
    private final class Moving {

        private final Loading loading;
        private final Hands hands;
        private final List<Work> works;
        private final ProgressListener told;
        private final Crew crew = new Crew(stop);
        private final List<Finding> findings = Collections.synchronizedList(new ArrayList<>());

        Moving(Loading loading, Hands hands, List<Work> works, ProgressListener told) {
            this.loading = loading;
            this.hands = hands;
            this.works = works;
            this.told = told;
        }

        TransferResult run() {
            findings.addAll(source.notices());
            findings.addAll(hands.findings());
            // asked before anything lasts: a source that fails afterwards must not make a load that is in look failed
            List<LeftBehind> leftBehind = new ArrayList<>(source.leftBehind());
            told.stage(ProgressListener.Stage.MOVING);
            crew.work(hands.all(), works, this::move);
            told.stage(ProgressListener.Stage.FINISHING);
            stop.check();
            loading.finish();
            findings.addAll(loading.findings());
            List<MovedTable> moved = works.stream()
                    .map(Work::sum)
                    .distinct()
                    .map(TableSum::result)
                    .map(m -> m.withMerged(loading.merged(m.table())))
                    .toList();
            leftBehind.addAll(loading.leftBehind());
            return new TransferResult(moved, List.of(), findings, leftBehind, loading.isRefused());
        }

        private void move(Hand hand, Work work) {
            TableName table = work.table().name();
            if (work.sum().begin()) {
                told.tableStarted(table, work.rows());
            }
            told.sliceStarted(table);
            SliceMove.Result result = Retry.of(() -> attempt(hand, work), crew::check, (failure, pause) -> {
                told.tryingAgain(table, failure.getMessage(), pause);
                hand.renewIfItsOwn(failure);
            });
            findings.addAll(result.findings());
            boolean last = work.sum().add(result, result.bytes());
            told.sliceFinished(table);
            if (last) {
                MovedTable moved = work.sum().result();
                Optional<Tally> wanted = acceptChanges ? Optional.empty() : source.keptTally(table);
                wanted.ifPresent(kept -> mustAgree(table, kept, moved.tally()));
                told.tableFinished(table, moved.read());
            }
        }

        private SliceMove.Result attempt(Hand hand, Work work) {
            TableName table = work.table().name();
            return new SliceMove(table, new Mover(table, told, pace, crew::check), crew::check)
                    .run(
                            rejects.orElseGet(source::rejects),
                            heard -> hand.place().read(work.slice(), heard),
                            taker -> loading.writer(table));
        }
    }

    private void mustAgree(TableName table, Tally kept, Tally found) {
        if (kept.isComparableTo(found) && !kept.equals(found)) {
            throw new BrokenSetException(
                    source.address(),
                    "table " + table + " has " + found.rows() + " records with the digest " + found.digest()
                            + ", and its tally says " + kept.rows() + " with " + kept.digest());
        }
    }
}
