package org.orderlyferry.transfer;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadSettings;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.progress.OneAtATime;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.tally.TallyTaker;

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
    private LoadSettings settings = LoadSettings.DEFAULT;
    private boolean rehearsal;
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
        settings = settings.withMode(value);
        return this;
    }

    /** Whether only to look what would happen: each value is checked, and the target stays as it is. */
    public Load rehearsal(boolean value) {
        rehearsal = value;
        return this;
    }

    /** How many writers work at once, at most; one unless told otherwise. */
    public Load lanes(int value) {
        settings = settings.withLanes(value);
        return this;
    }

    /** How many records and bytes move a second, at most; 0 for any number. */
    public Load pace(long rowsPerSecond, long bytesPerSecond) {
        pace = new Pace(rowsPerSecond, bytesPerSecond);
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
        listener.stage(ProgressListener.Stage.CHECKING);
        source.verify();
        List<TableDefinition> tables = LoadingOrder.of(
                TableChoice.of(source, patterns).stream().map(source::define).toList());
        for (TableDefinition table : tables) {
            // a file whose columns don't match must be told of before anything is written
            source.read(Slice.whole(table)).close();
        }
        List<Long> counts = tables.stream().map(t -> expected(t.name())).toList();
        listener.planned(
                tables.stream().map(TableDefinition::name).toList(),
                counts.stream().mapToLong(Long::longValue).sum());

        List<Finding> findings = Collections.synchronizedList(new ArrayList<>());
        int lanes = Math.min(settings.lanes(), target.mostLanes());
        List<Hand> hands = new ArrayList<>();
        if (lanes > 1) {
            source.companions(lanes).places().forEach(p -> hands.add(new Hand(source, p)));
        }
        if (hands.isEmpty()) {
            hands.add(new Hand(source, source));
        }
        List<Work> works = new ArrayList<>();
        for (int i = 0; i < tables.size(); i++) {
            TableDefinition table = tables.get(i);
            long rows = counts.get(i);
            List<Slice> slices = source.cut(table, rows, Cut.DEFAULT);
            TableSum sum = new TableSum(table.name(), slices.size());
            slices.forEach(s -> works.add(new Work(table, rows, sum, s)));
        }
        LoadSettings used = settings.withLanes(hands.size());
        try (Loading loading = rehearsal ? target.rehearse(tables, used) : target.begin(tables, used)) {
            ProgressListener told = new OneAtATime(listener);
            told.stage(ProgressListener.Stage.MOVING);
            Crew crew = new Crew(stop);
            crew.work(hands, works, (hand, work) -> move(loading, hand, work, told, crew, findings));
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
            return new TransferResult(moved, List.of(), findings, loading.leftBehind(), loading.isRefused());
        } finally {
            hands.forEach(Hand::close);
        }
    }

    private record Work(TableDefinition table, long rows, TableSum sum, Slice slice) {}

    private long expected(TableName table) {
        Optional<Tally> kept = source.keptTally(table);
        return kept.isPresent() ? kept.get().rows() : source.estimate(table);
    }

    private void move(Loading loading, Hand hand, Work work, ProgressListener told, Crew crew, List<Finding> findings) {
        TableName table = work.table().name();
        if (work.sum().begin()) {
            told.tableStarted(table, work.rows());
        }
        told.sliceStarted(table);
        boolean last = Retry.of(
                () -> attempt(loading, hand, work, told, crew, findings),
                crew::check,
                (failure, pause) -> told.tryingAgain(table, failure.getMessage(), pause));
        told.sliceFinished(table);
        if (last) {
            MovedTable moved = work.sum().result();
            source.keptTally(table).ifPresent(kept -> mustAgree(table, kept, moved.tally()));
            told.tableFinished(table, moved.read());
        }
    }

    private boolean attempt(
            Loading loading, Hand hand, Work work, ProgressListener told, Crew crew, List<Finding> findings) {
        TableName table = work.table().name();
        try (RecordReader reader = hand.place().read(work.slice());
                RecordWriter writer = loading.writer(table)) {
            TallyTaker taker = TallyTaker.of(reader.table().columns());
            Mover mover = new Mover(table, told, pace, crew::check);
            mover.move(reader, taker, writer);
            findings.addAll(reader.findings());
            return work.sum().add(mover.rows(), mover.bytes(), taker.tally());
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
