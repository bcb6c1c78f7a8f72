package org.orderlyferry.work;

import java.util.List;
import org.orderlyferry.place.Place;
import org.orderlyferry.problem.PlaceException;
import org.slf4j.LoggerFactory;

/** One of several that read a place: with a way into it of its own, which can be renewed when it is lost. */
final class Hand {

    private final Place source;
    private Place place;

    /**
     * A hand.
     *
     * @param place the way that it uses; the source itself where there is no other
     */
    Hand(Place source, Place place) {
        this.source = source;
        this.place = place;
    }

    Place place() {
        return place;
    }

    /**
     * Takes another way into the source, instead of one that was lost.
     *
     * @throws PlaceException the failure, if there is none that sees the same state
     */
    void renew(PlaceException failure) {
        if (place == source) {
            throw failure;
        }
        List<Place> others;
        try {
            others = source.companions(1).places();
        } catch (PlaceException second) {
            failure.addSuppressed(second);
            throw failure;
        }
        if (others.isEmpty()) {
            throw failure;
        }
        close();
        place = others.get(0);
    }

    /** Takes another way into the source if it is the source, and not the target, that was lost. */
    void renewIfItsOwn(PlaceException failure) {
        if (failure.place().equals(place.address())) {
            renew(failure);
        }
    }

    void close() {
        if (place != source) {
            try {
                place.close();
            } catch (PlaceException e) {
                LoggerFactory.getLogger(Hand.class).debug("a lost connection can't be closed", e);
            }
        }
    }
}
