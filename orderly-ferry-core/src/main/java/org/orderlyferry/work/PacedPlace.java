package org.orderlyferry.work;

import java.util.List;
import org.apiguardian.api.API;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.KeySample;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.record.ForwardingReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/**
 * A place of which so many records and bytes of values are read a second, at most, whatever they are read for, over all ways
 * into it together. What its server counts or adds up itself isn't held back.
 */
@API(status = API.Status.INTERNAL)
public final class PacedPlace extends ForwardingPlace {

    private final Pace pace;
    private volatile boolean cancelled;

    private PacedPlace(Place place, Pace pace) {
        super(place);
        this.pace = pace;
    }

    /**
     * The place with a pace, or as it is where both may be any.
     *
     * @param rowsPerSecond at most; 0 for any
     * @param bytesPerSecond at most; 0 for any
     */
    public static Place of(Place place, long rowsPerSecond, long bytesPerSecond) {
        return rowsPerSecond == 0 && bytesPerSecond == 0
                ? place
                : new PacedPlace(place, new Pace(rowsPerSecond, bytesPerSecond));
    }

    @Override
    public RecordReader read(Slice slice) {
        return new Paced(super.read(slice));
    }

    @Override
    public RecordReader read(Slice slice, Rejects rejects) {
        return new Paced(super.read(slice, rejects));
    }

    @Override
    public RecordReader readSome(Slice slice, Rejects rejects, KeySample sample) {
        return new Paced(super.readSome(slice, rejects, sample));
    }

    @Override
    public RecordReader readRestricted(Slice slice, Rejects rejects, Restriction restriction) {
        return new Paced(super.readRestricted(slice, rejects, restriction));
    }

    @Override
    public Companions companions(int count) {
        Companions more = super.companions(count);
        List<Place> paced =
                more.places().stream().map(p -> (Place) new PacedPlace(p, pace)).toList();
        return new Companions(paced, more.findings());
    }

    @Override
    public void cancel() {
        cancelled = true;
        super.cancel();
    }

    private void goOn() {
        if (cancelled) {
            throw new StoppedException();
        }
    }

    private final class Paced extends ForwardingReader {

        Paced(RecordReader reader) {
            super(reader);
        }

        @Override
        public boolean read(RecordBatch batch) {
            boolean more = super.read(batch);
            if (more) {
                pace.keep(batch.rows(), batch.valueBytes(), PacedPlace.this::goOn);
            }
            return more;
        }
    }
}
