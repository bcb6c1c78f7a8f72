package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.function.Supplier;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.OwnDigests;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.ChainedReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.ComparisonForm;
import org.orderlyferry.tally.TallyTaker;

/**
 * Gives those records of a slice whose keys are wanted. Where they are few, and the place can leave out all others, it is asked
 * for them some at a time; else it gives all of the slice.
 */
final class WantedRecords implements RecordReader {

    /** What a place is asked for at once. */
    private static final int AT_ONCE = 500;

    /** With more than one wanted in so many, a place had better give all. */
    private static final int FEW = 20;

    /** Keys are kept as values for no more than these. */
    private static final int MOST = 10_000;

    private final Place place;
    private final Slice slice;
    private final List<String> key;
    private final TallyTaker keys;
    private final Rejects rejects;
    private final DigestMap wanted = new DigestMap();
    /** By their values. */
    private final List<Restriction> byValue = new ArrayList<>();

    /** There is none where nothing is wanted. */
    private RecordReader reader;

    private boolean askable;
    private long found;

    /**
     * None yet.
     *
     * @param key the key's columns, in their order in the slice
     * @param forms in which its values are compared
     * @param askable whether the place compares the key's values as they are told
     */
    WantedRecords(
            Place place, Slice slice, List<String> key, List<ComparisonForm> forms, boolean askable, Rejects rejects) {
        this.place = place;
        this.slice = slice;
        this.key = key;
        this.askable = askable;
        this.rejects = rejects;
        this.keys = new TallyTaker(
                key, forms, key.stream().mapToInt(slice.columns()::indexOf).toArray());
    }

    /** One more is wanted. */
    void add(long keyHigh, long keyLow, Records values, int row) {
        wanted.put(keyHigh, keyLow, 0, 0);
        if (askable) {
            List<Restriction> equal = new ArrayList<>();
            for (int i = 0; i < key.size(); i++) {
                equal.add(new Restriction.Compared(
                        key.get(i), Restriction.Comparison.EQUAL, Objects.requireNonNull(values.text(row, i))));
            }
            byValue.add(new Restriction.Several(equal, true));
            askOnlyWithin(MOST);
        }
    }

    private void askOnlyWithin(long most) {
        if (byValue.size() > most) {
            askable = false;
            byValue.clear();
        }
    }

    /**
     * All that are wanted are known: they are read now.
     *
     * @param rows how many records the slice has
     */
    void end(long rows) {
        askOnlyWithin(rows / FEW);
        if (wanted.size() > 0) {
            reader = askable ? picked() : place.read(slice, rejects);
        }
    }

    private RecordReader picked() {
        OwnDigests own = place.ownDigests().orElseThrow();
        List<Supplier<RecordReader>> readers = new ArrayList<>();
        for (int at = 0; at < byValue.size(); at += AT_ONCE) {
            List<Restriction> some = byValue.subList(at, Math.min(byValue.size(), at + AT_ONCE));
            readers.add(() -> own.pick(slice, new Restriction.Several(some, false), rejects));
        }
        return ChainedReader.of(readers);
    }

    @Override
    public TableDefinition table() {
        return place.define(slice.table()).withColumns(slice.columns());
    }

    @Override
    public boolean read(RecordBatch batch) {
        while (reader != null && reader.read(batch)) {
            keys.add(batch);
            boolean[] unwanted = new boolean[batch.rows()];
            for (int row = 0; row < unwanted.length; row++) {
                unwanted[row] = wanted.take(keys.rowHigh(row), keys.rowLow(row), 0, 0) == DigestMap.Found.ABSENT;
            }
            batch.removeRows(unwanted);
            found += batch.rows();
            if (batch.rows() > 0) {
                return true;
            }
        }
        if (wanted.size() > 0) {
            throw new PlaceException(
                    place.address(),
                    wanted.size() + " of the " + (wanted.size() + found) + " records of table " + slice.table()
                            + " that have changed aren't there when they are read: somebody writes there, and what is read isn't of one moment",
                    null);
        }
        batch.start(slice.columns().size(), slice.table().toString(), "", false);
        return false;
    }

    @Override
    public List<Finding> findings() {
        return reader == null ? List.of() : reader.findings();
    }

    @Override
    public void close() {
        if (reader != null) {
            reader.close();
        }
    }
}
