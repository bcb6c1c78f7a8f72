package org.orderlyferry.integrity;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.OwnDigests;
import org.orderlyferry.place.Place;

/**
 * A place that is read more than once: its companions are opened once, since a system may show them the same state only
 * before anything was read. Closing it closes them, and not the place.
 */
final class HeldCompanions extends ForwardingPlace {

    private @Nullable Companions held;

    HeldCompanions(Place place) {
        super(place);
    }

    @Override
    public synchronized Companions companions(int count) {
        if (held == null) {
            held = place().companions(count);
        }
        List<Place> lent = held.places().stream()
                .limit(count)
                .map(p -> (Place) new Lent(p))
                .toList();
        return new Companions(lent, held.findings());
    }

    @Override
    public Optional<OwnDigests> ownDigests() {
        return place().ownDigests();
    }

    @Override
    public synchronized void close() {
        if (held != null) {
            held.places().forEach(Place::close);
            held = Companions.NONE;
        }
    }

    /** Whoever closes it has only borrowed it. */
    private static final class Lent extends ForwardingPlace {

        Lent(Place place) {
            super(place);
        }

        @Override
        public Optional<OwnDigests> ownDigests() {
            return place().ownDigests();
        }

        @Override
        public void close() {
            // the next one reads by it
        }
    }
}
