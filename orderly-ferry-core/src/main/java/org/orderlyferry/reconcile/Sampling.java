package org.orderlyferry.reconcile;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.KeySample;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.ComparisonForm;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.tally.TallyTaker;

/**
 * A place of which only some records are seen: those whose keys hash into a share, the same ones on both sides. Where a key
 * is one whole number, servers leave the others out themselves; elsewhere all are read.
 */
final class Sampling extends ForwardingPlace {

    /** How a table's records are picked. */
    private record Picked(List<String> key, List<ComparisonForm> forms, Optional<KeySample> whole) {}

    private final int share;
    private final Map<TableName, Picked> tables;

    /**
     * Of a place.
     *
     * @param share in ten-thousandths
     */
    Sampling(Place place, int share) {
        this(place, share, new HashMap<>());
    }

    private Sampling(Place place, int share, Map<TableName, Picked> tables) {
        super(place);
        this.share = share;
        this.tables = tables;
    }

    /**
     * Says by what a table's records are picked; before any is read.
     *
     * @param key the key's columns, by this place's names
     * @param forms in which they are compared
     * @param whole whether it is one column of whole numbers on both sides
     */
    void pick(TableName table, List<String> key, List<ComparisonForm> forms, boolean whole) {
        tables.put(
                table,
                new Picked(key, forms, whole ? Optional.of(new KeySample(key.get(0), share)) : Optional.empty()));
    }

    @Override
    public long estimate(TableName table) {
        return super.estimate(table) * share / KeySample.CLASSES;
    }

    /** The tally that a set keeps is of all records. */
    @Override
    public Optional<Tally> keptTally(TableName table) {
        return Optional.empty();
    }

    @Override
    public Companions companions(int count) {
        Companions all = super.companions(count);
        return new Companions(
                all.places().stream()
                        .map(p -> (Place) new Sampling(p, share, tables))
                        .toList(),
                all.findings());
    }

    @Override
    public RecordReader read(Slice slice) {
        return read(slice, rejects());
    }

    @Override
    public RecordReader read(Slice slice, Rejects rejects) {
        Picked picked = tables.get(slice.table());
        RecordReader reader = picked.whole()
                .map(sample -> readSome(slice, rejects, sample))
                .orElseGet(() -> super.read(slice, rejects));
        return new SampledReader(reader, picked);
    }

    /** Its records aren't those of the place that it wraps. */
    @Override
    public RecordReader readRestricted(Slice slice, Rejects rejects, Restriction restriction) {
        return read(slice, rejects);
    }

    /** Gives those records of another reader that are in the sample. */
    private final class SampledReader implements RecordReader {

        private final RecordReader reader;
        private final Optional<KeySample> whole;
        private final TallyTaker taker;
        private final int[] places;

        SampledReader(RecordReader reader, Picked picked) {
            this.reader = reader;
            this.whole = picked.whole();
            List<String> columns = reader.table().columnNames();
            this.places = picked.key().stream().mapToInt(columns::indexOf).toArray();
            this.taker = new TallyTaker(picked.key(), picked.forms(), places)
                    .keyed(IntStream.range(0, places.length).toArray());
        }

        @Override
        public TableDefinition table() {
            return reader.table();
        }

        @Override
        public boolean read(RecordBatch batch) {
            while (reader.read(batch)) {
                if (whole.isEmpty()) {
                    taker.add(batch);
                }
                boolean[] unwanted = new boolean[batch.rows()];
                int left = 0;
                for (int row = 0; row < unwanted.length; row++) {
                    unwanted[row] = !isIn(batch, row);
                    left += unwanted[row] ? 0 : 1;
                }
                batch.removeRows(unwanted);
                if (left > 0) {
                    return true;
                }
            }
            return false;
        }

        private boolean isIn(RecordBatch batch, int row) {
            if (whole.isEmpty()) {
                return Long.remainderUnsigned(taker.keyHigh(row), KeySample.CLASSES) < share;
            }
            String key = batch.text(row, places[0]);
            return key != null && whole.get().has(Long.parseLong(key));
        }

        @Override
        public List<Finding> findings() {
            return reader.findings();
        }

        @Override
        public void close() {
            reader.close();
        }
    }
}
