package org.orderlyferry.integrity;

import java.util.Optional;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.record.ForwardingReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.Screen;

/** A place without the records that a target can't hold for their values: nothing can refer to them there. */
final class ScreenedPlace extends ForwardingPlace {

    private final Loading tried;

    ScreenedPlace(Place place, Loading tried) {
        super(place);
        this.tried = tried;
    }

    @Override
    public RecordReader read(Slice slice) {
        return read(slice, place().rejects());
    }

    @Override
    public RecordReader read(Slice slice, Rejects rejects) {
        RecordReader reader = place().read(slice, rejects);
        Optional<Screen> screen = tried.screen(new TablePart(0, slice.table(), 1, 1));
        return screen.isEmpty() ? reader : new Screened(reader, screen.get(), rejects);
    }

    @Override
    public Companions companions(int count) {
        Companions bare = place().companions(count);
        return new Companions(
                bare.places().stream()
                        .map(p -> (Place) new ScreenedPlace(p, tried))
                        .toList(),
                bare.findings());
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
