package org.orderlyferry.place;

import java.util.Optional;
import java.util.Set;

/**
 * Opens places of one kind. Found by {@link java.util.ServiceLoader}, so that a new kind of place needs no change
 * anywhere else.
 */
public interface PlaceProvider {

    /** What the addresses of its kind begin with, in lower case; see {@link PlaceAddress#scheme()}. No other is shown to it. */
    default Set<String> schemes() {
        return Set.of(PlaceAddress.FILE);
    }

    /** Opens a place to read from, or gives nothing if the address isn't one of its kind. */
    Optional<Place> open(PlaceAddress address, OpenOptions options);

    /** Opens a place to write to, making it where it isn't there yet, or gives nothing if it isn't one of its kind. */
    default Optional<TargetPlace> openTarget(PlaceAddress address, OpenOptions options) {
        return Optional.empty();
    }
}
