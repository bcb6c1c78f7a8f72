package org.orderlyferry.transfer;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadSettings;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.RecordBatch;
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

        List<MovedTable> moved = new ArrayList<>();
        List<Finding> findings = new ArrayList<>();
        try (Loading loading = rehearsal ? target.rehearse(tables, settings) : target.begin(tables, settings)) {
            listener.stage(ProgressListener.Stage.MOVING);
            for (int i = 0; i < tables.size(); i++) {
                moved.add(move(loading, tables.get(i), counts.get(i), findings));
            }
            listener.stage(ProgressListener.Stage.FINISHING);
            stop.check();
            loading.finish();
            findings.addAll(loading.findings());
            List<MovedTable> merged = moved.stream()
                    .map(m -> m.withMerged(loading.merged(m.table())))
                    .toList();
            return new TransferResult(merged, List.of(), findings, loading.leftBehind(), loading.isRefused());
        }
    }

    private long expected(TableName table) {
        Optional<Tally> kept = source.keptTally(table);
        return kept.isPresent() ? kept.get().rows() : source.count(table);
    }

    private MovedTable move(Loading loading, TableDefinition table, long expected, List<Finding> findings) {
        Slice slice = Slice.whole(table);
        try (RecordReader reader = source.read(slice);
                RecordWriter writer = loading.writer(table.name())) {
            TallyingWriter tallying =
                    new TallyingWriter(writer, TallyTaker.of(reader.table().columns()));
            Mover mover = new Mover(table.name(), listener, stop);
            mover.move(reader, tallying, expected);
            findings.addAll(reader.findings());
            MovedTable result = mover.result(mover.bytes(), tallying.taker().tally());
            source.keptTally(table.name()).ifPresent(kept -> mustAgree(table.name(), kept, result.tally()));
            return result;
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

    /** Takes a tally of what passes. */
    private record TallyingWriter(RecordWriter writer, TallyTaker taker) implements RecordWriter {
        @Override
        public void write(RecordBatch batch) {
            // first: a writer may bring the values into another form
            taker.add(batch);
            writer.write(batch);
        }

        @Override
        public void finish() {
            writer.finish();
        }

        @Override
        public void close() {
            writer.close();
        }
    }
}
