package org.orderlyferry.reconcile;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.ConcurrentHashMap;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.tally.TallyTaker;
import org.orderlyferry.work.TallyWork;

/** One side of a comparison by rows: what was seen of its tables. */
final class RowSide implements TallyWork.Witnesses {

    /** Slices are what is read again, so they are smaller than those that are only counted. */
    private static final long SLICE_ROWS = 200_000;

    private final Place place;
    private final EntryStore store;
    private final Map<TableName, RowEntries> tables = new LinkedHashMap<>();
    private final Map<Integer, RowEntries.Attempt> attempts = new ConcurrentHashMap<>();

    RowSide(Place place, EntryStore store) {
        this.place = place;
        this.store = store;
    }

    Place place() {
        return place;
    }

    /** Says by what a table's records are told apart; before any is seen. */
    void expect(TableName table, RowKey key, int buckets, int parts) {
        tables.put(table, new RowEntries(store, key, buckets, parts));
    }

    RowEntries entries(TableName table) {
        return Objects.requireNonNull(tables.get(table));
    }

    @Override
    public long sliceRows() {
        return SLICE_ROWS;
    }

    @Override
    public void attend(TallyTaker taker, TableName table, Slice slice, int number) {
        RowEntries entries = entries(table);
        RowEntries.Attempt attempt = entries.attempt(slice);
        attempts.put(number, attempt);
        taker.keyed(entries.key().places()).witness(attempt);
    }

    @Override
    public String done(int number) {
        return attempts.remove(number).done();
    }

    @Override
    public String looksFor() {
        return "records by "
                + tables.values().stream()
                        .map(t -> Arrays.toString(t.key().places()))
                        .toList();
    }

    @Override
    public boolean restored(TableName table, Slice slice, Tally tally, String kept) {
        return entries(table).restore(slice, tally, kept);
    }
}
