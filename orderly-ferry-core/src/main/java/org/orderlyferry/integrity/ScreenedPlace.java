package org.orderlyferry.integrity;

import java.util.Optional;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.KeySample;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.record.ForwardingReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.Screen;
import org.orderlyferry.tally.Tally;

/** A place without the records that a target can't hold for their values: nothing can refer to them there. */
final class ScreenedPlace extends ForwardingPlace {

    private final Loading tried;
    private final Rejects rejects;

    /**
     * Without those.
     *
     * @param tried the target's own look at them; closed with the place
     * @param rejects hears of them, unless whoever reads has others hear of it
     */
    ScreenedPlace(Place place, Loading tried, Rejects rejects) {
        super(place);
        this.tried = tried;
        this.rejects = rejects;
    }

    /** Other records than were tallied. */
    @Override
    public Optional<Tally> keptTally(TableName table) {
        return Optional.empty();
    }

    /** What is left out depends on another place, too. */
    @Override
    public Optional<String> state() {
        return Optional.empty();
    }

    @Override
    public RecordReader read(Slice slice) {
        return read(slice, rejects);
    }

    @Override
    public RecordReader read(Slice slice, Rejects hears) {
        return screened(place().read(slice, hears), slice, hears);
    }

    @Override
    public RecordReader readSome(Slice slice, Rejects hears, KeySample sample) {
        return screened(place().readSome(slice, hears, sample), slice, hears);
    }

    @Override
    public RecordReader readRestricted(Slice slice, Rejects hears, Restriction restriction) {
        return screened(place().readRestricted(slice, hears, restriction), slice, hears);
    }

    /** Whoever reads some of the columns wants to know something else of the records. */
    private RecordReader screened(RecordReader reader, Slice slice, Rejects hears) {
        TableName table = slice.table();
        Optional<Screen> screen =
                reader.table().columnNames().equals(define(table).columnNames())
                        ? tried.screen(new TablePart(0, table, 1, 1))
                        : Optional.empty();
        return screen.isEmpty() ? reader : new Screened(reader, screen.get(), hears);
    }

    @Override
    public Rejects rejects() {
        return rejects;
    }

    @Override
    public Companions companions(int count) {
        Companions bare = place().companions(count);
        return new Companions(
                bare.places().stream()
                        .map(p -> (Place) new ScreenedPlace(p, tried, rejects))
                        .toList(),
                bare.findings());
    }

    @Override
    @SuppressWarnings("try") // closed behind the place, and not used else
    public void close() {
        try (Loading closed = tried) {
            super.close();
        }
    }

    private static final class Screened extends ForwardingReader {

        private final Screen screen;
        private final Rejects rejects;

        Screened(RecordReader reader, Screen screen, Rejects rejects) {
            super(reader);
            this.screen = screen;
            this.rejects = rejects;
        }

        @Override
        public boolean read(RecordBatch batch) {
            while (super.read(batch)) {
                screen.screen(batch, rejects);
                if (batch.rows() > 0) {
                    return true;
                }
            }
            return false;
        }
    }
}
