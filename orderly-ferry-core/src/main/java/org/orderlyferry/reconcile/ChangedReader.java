package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import java.util.function.LongConsumer;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.ComparisonForm;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.tally.TallyTaker;

/**
 * Gives those records of a slice that the target doesn't have as they are. The target's side is read first, into a map from
 * keys to records, both as digests; what the source doesn't take out of it is missing there.
 */
final class ChangedReader implements RecordReader {

    /** What a key takes in a map that is about to grow, in bytes. */
    private static final int BYTES_OF_A_KEY = 160;

    /** How many keys are held at once, about: both sides are read once for each such part, by several lanes perhaps. */
    private static final long HELD = Math.max(200_000, Runtime.getRuntime().maxMemory() / 16 / BYTES_OF_A_KEY);

    private final Place source;
    private final Place target;
    private final Slice slice;
    private final ChangedRecords.ComparedPair pair;
    private final MissingKeys missing;
    private final Rejects rejects;
    private final LongConsumer told;
    private final Consumer<ChangeCount> counted;
    private final int parts;
    private final TableDefinition table;
    /** The key's columns, in the order in which records have them. */
    private final List<String> key;

    private final TallyTaker rows;
    private final DigestMap there = new DigestMap();
    private final RunningSum after = new RunningSum();
    private RecordSum goneSum = RecordSum.NONE;
    private int part = -1;
    private final List<Finding> findings = new ArrayList<>();
    private RecordReader reader;
    private boolean ended;
    private long inserted;
    private long updated;
    private volatile long unchanged;
    private long gone;
    /** Readers hear of them on threads of their own. */
    private volatile boolean rejected;

    /**
     * A reader.
     *
     * @param rows how many records there are, about, where all are read at once; else 0
     * @param told hears how many more records are as they were
     * @param counted told at the end what was found
     */
    ChangedReader(
            Place source,
            Place target,
            Slice slice,
            ChangedRecords.ComparedPair pair,
            MissingKeys missing,
            Rejects rejects,
            long rows,
            LongConsumer told,
            Consumer<ChangeCount> counted) {
        this.source = source;
        this.target = target;
        this.slice = slice;
        this.pair = pair;
        this.missing = missing;
        this.rejects = rejects;
        this.told = told;
        this.counted = counted;
        this.parts = (int) Math.min(10_000, 1 + rows / HELD);
        this.table = source.define(slice.table()).withColumns(slice.columns());
        this.key = slice.columns().stream().filter(pair.key()::contains).toList();
        this.rows = rowTaker();
    }

    private TallyTaker rowTaker() {
        return new TallyTaker(slice.columns(), forms(slice.columns()))
                .keyed(key.stream().mapToInt(c -> slice.columns().indexOf(c)).toArray());
    }

    /** Takes the same of a record's key, where nothing else is read, as the other does of a whole record's. */
    private TallyTaker keyTaker() {
        return new TallyTaker(
                key, forms(key), key.stream().mapToInt(pair.key()::indexOf).toArray());
    }

    private List<ComparisonForm> forms(List<String> columns) {
        return columns.stream()
                .map(c ->
                        pair.columns().forms().get(pair.columns().sourceNames().indexOf(c)))
                .toList();
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    private boolean isOfPart(long keyHigh) {
        return parts == 1 || Long.remainderUnsigned(keyHigh, parts) == part;
    }

    /** The same records at the target, with the same columns in the same order. */
    private Slice atTarget(List<String> columns) {
        KeyRange range = slice.range();
        Slice whole = new Slice(pair.target().name(), pair.columns().atTarget(columns));
        return range.isAll()
                ? whole
                : whole.within(new KeyRange(
                        pair.columns().atTarget(range.columns()), range.from(), range.to(), range.nulls()));
    }

    private void readTarget() {
        there.clear();
        if (pair.seed().isPresent()) {
            SliceDigests.read(
                    target,
                    atTarget(slice.columns()),
                    pair.columns().atTarget(key),
                    forms(key),
                    pair.seed().getAsLong(),
                    (keyHigh, keyLow, high, low, keys, row) -> put(keyHigh, keyLow, high, low));
            return;
        }
        RecordBatch batch = new RecordBatch();
        TallyTaker theirRows = rowTaker();
        try (RecordReader theirs = target.read(atTarget(slice.columns()))) {
            while (theirs.read(batch)) {
                theirRows.add(batch);
                for (int row = 0; row < batch.rows(); row++) {
                    put(theirRows.keyHigh(row), theirRows.keyLow(row), theirRows.rowHigh(row), theirRows.rowLow(row));
                }
            }
        }
    }

    private void put(long keyHigh, long keyLow, long high, long low) {
        if (isOfPart(keyHigh)) {
            after.add(high, low);
            there.put(keyHigh, keyLow, high, low);
        }
    }

    /** Which records are wanted, by the digests that the source's server takes; they are read then. */
    private RecordReader wanted(long seed, Rejects hearing) {
        WantedRecords wanted = new WantedRecords(source, slice, key, forms(key), pair.isOrderedAlike(), hearing);
        long before = unchanged;
        SliceDigests.read(source, slice, key, forms(key), seed, (keyHigh, keyLow, high, low, keys, row) -> {
            if (!isAlike(keyHigh, keyLow, high, low)) {
                wanted.add(keyHigh, keyLow, keys, row);
            }
        });
        wanted.end(unchanged - before + inserted + updated);
        told.accept(unchanged - before);
        return wanted;
    }

    private void reject(FerryException why) {
        rejects.reject(why);
        rejected = true;
    }

    /** A record that can't be taken is at the source all the same, so what the target has of it isn't gone: by its key alone it can be read. */
    private void keepRejected() {
        RecordBatch batch = new RecordBatch();
        TallyTaker taker = keyTaker();
        Slice keysAlone = new Slice(slice.table(), pair.key()).within(slice.range());
        AtomicBoolean unsure = new AtomicBoolean();
        try (RecordReader ours = source.read(keysAlone, why -> unsure.set(true))) {
            while (there.size() > 0 && ours.read(batch)) {
                taker.add(batch);
                for (int row = 0; row < batch.rows(); row++) {
                    there.take(taker.rowHigh(row), taker.rowLow(row), 0, 0);
                }
            }
        }
        if (unsure.get()) {
            // nobody can tell which of the target's records those are
            there.clear();
        }
    }

    /** Reads the keys of what is left once more, as values. */
    private void tellMissing() {
        DigestMap left = there.left();
        gone += left.size();
        goneSum = goneSum.plus(left.sum());
        if (left.size() == 0 || missing == MissingKeys.UNHEARD) {
            return;
        }
        TableDefinition keyOnly = pair.target().withColumns(pair.columns().atTarget(pair.key()));
        RecordBatch batch = new RecordBatch();
        TallyTaker taker = keyTaker();
        try (RecordReader theirs = target.read(atTarget(pair.key()))) {
            while (theirs.read(batch)) {
                taker.add(batch);
                boolean[] unwanted = new boolean[batch.rows()];
                for (int row = 0; row < unwanted.length; row++) {
                    unwanted[row] = !left.contains(taker.rowHigh(row), taker.rowLow(row));
                }
                batch.removeRows(unwanted);
                if (batch.rows() > 0) {
                    missing.missing(keyOnly, batch);
                }
            }
        }
    }

    @Override
    public boolean read(RecordBatch batch) {
        while (!ended) {
            if (part < 0 && isEqual()) {
                end();
                break;
            }
            if (reader == null) {
                part++;
                readTarget();
                // what is read once more for another part is rejected but once
                Rejects hearing = part == 0 ? this::reject : Rejects.UNHEARD;
                reader = pair.seed().isPresent()
                        ? wanted(pair.seed().getAsLong(), hearing)
                        : source.read(slice, hearing);
            }
            while (reader.read(batch)) {
                if (pair.seed().isEmpty()) {
                    batch.removeRows(alike(batch));
                }
                if (batch.rows() > 0) {
                    return true;
                }
            }
            closeReader();
            if (rejected) {
                keepRejected();
            }
            tellMissing();
            if (part + 1 == parts) {
                end();
            }
        }
        batch.start(slice.columns().size(), slice.table().toString(), "", false);
        return false;
    }

    private void end() {
        ended = true;
        counted.accept(new ChangeCount(inserted, updated, unchanged, gone, after.sum(), goneSum));
    }

    /** Whether both servers say that all of the slice is equal, where they are asked; then none of it is read. */
    private boolean isEqual() {
        if (pair.seed().isEmpty() || !pair.ranges().areWorthAsking()) {
            return false;
        }
        long seed = pair.seed().getAsLong();
        Tally theirs = target.ownDigests().orElseThrow().of(atTarget(slice.columns()), seed);
        boolean equal = theirs.equals(source.ownDigests().orElseThrow().of(slice, seed));
        pair.ranges().were(equal);
        if (equal) {
            unchanged = theirs.rows();
            after.add(theirs);
            told.accept(unchanged);
        }
        return equal;
    }

    /** Which records the target has as they are, or are of another part. */
    private boolean[] alike(Records batch) {
        rows.add(batch);
        boolean[] alike = new boolean[batch.rows()];
        long before = unchanged;
        for (int row = 0; row < alike.length; row++) {
            alike[row] = isAlike(rows.keyHigh(row), rows.keyLow(row), rows.rowHigh(row), rows.rowLow(row));
        }
        told.accept(unchanged - before);
        return alike;
    }

    /** Whether the target has a record as it is, or it is of another part; counts those of this one. */
    private boolean isAlike(long keyHigh, long keyLow, long high, long low) {
        if (!isOfPart(keyHigh)) {
            return true;
        }
        switch (there.take(keyHigh, keyLow, high, low)) {
            case ABSENT -> inserted++;
            case OTHER -> {
                updated++;
                after.takeOut(there.takenHigh(), there.takenLow());
            }
            case SAME -> {
                unchanged++;
                return true;
            }
        }
        after.add(high, low);
        return false;
    }

    @Override
    public long leftOut() {
        return unchanged;
    }

    @Override
    public List<Finding> findings() {
        List<Finding> all = new ArrayList<>(findings);
        if (reader != null) {
            all.addAll(reader.findings());
        }
        return all;
    }

    private void closeReader() {
        RecordReader open = reader;
        reader = null;
        if (open != null) {
            findings.addAll(open.findings());
            open.close();
        }
    }

    @Override
    public void close() {
        closeReader();
    }
}
