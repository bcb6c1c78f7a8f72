package org.orderlyferry.integrity;

import java.util.Optional;
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
import org.orderlyferry.tally.Tally;

/** A place without the records that break constraints. */
final class SoundPlace extends ForwardingPlace {

    private final Violations violations;
    private final Rejects rejects;

    SoundPlace(Place place, Violations violations, Rejects rejects) {
        super(place);
        this.violations = violations;
        this.rejects = rejects;
    }

    @Override
    public long count(TableName table) {
        if (!violations.has(table)) {
            return place().count(table);
        }
        long rows = 0;
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = read(Slice.whole(define(table)), Rejects.UNHEARD)) {
            while (reader.read(batch)) {
                rows += batch.rows();
            }
        }
        return rows;
    }

    @Override
    public Optional<Tally> keptTally(TableName table) {
        return violations.has(table) ? Optional.empty() : place().keptTally(table);
    }

    /** What is left out depends on another place, too. */
    @Override
    public Optional<String> state() {
        return violations.isEmpty() ? place().state() : Optional.empty();
    }

    @Override
    public RecordReader read(Slice slice) {
        return read(slice, rejects);
    }

    @Override
    public RecordReader read(Slice slice, Rejects hears) {
        RecordReader reader = place().read(slice, hears);
        return violations.has(slice.table()) ? new SoundReader(reader, violations.of(slice.table()), hears) : reader;
    }

    @Override
    public RecordReader readSome(Slice slice, Rejects hears, KeySample sample) {
        return violations.has(slice.table()) ? read(slice, hears) : place().readSome(slice, hears, sample);
    }

    @Override
    public RecordReader readRestricted(Slice slice, Rejects hears, Restriction restriction) {
        return violations.has(slice.table()) ? read(slice, hears) : place().readRestricted(slice, hears, restriction);
    }

    @Override
    public Companions companions(int count) {
        Companions bare = place().companions(count);
        return new Companions(
                bare.places().stream()
                        .map(p -> (Place) new SoundPlace(p, violations, rejects))
                        .toList(),
                bare.findings());
    }

    @Override
    public Rejects rejects() {
        return rejects;
    }
}
