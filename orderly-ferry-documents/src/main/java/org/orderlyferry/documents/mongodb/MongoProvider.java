package org.orderlyferry.documents.mongodb;

import java.util.Optional;
import java.util.Set;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.PlaceProvider;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;

/** Opens databases of documents. */
public final class MongoProvider implements PlaceProvider {

    @Override
    public Set<String> schemes() {
        return Set.of("mongodb", "mongodb+srv");
    }

    @Override
    public Optional<Place> open(PlaceAddress address, OpenOptions options) {
        options.mustBeOfNoFile(address, "a document database");
        StoreAddress store = StoreAddress.of(address, options.secrets());
        return Optional.of(new MongoPlace(Server.open(store, options.secrets(), false), store, options.rejects()));
    }

    @Override
    public Optional<TargetPlace> openTarget(PlaceAddress address, OpenOptions options) {
        options.mustBeOfNoFile(address, "a document database");
        StoreAddress store = StoreAddress.of(address, options.secrets());
        if (store.database().isEmpty()) {
            throw new UsageException(store.shown() + " names no database to write to: it stands behind the last slash");
        }
        return Optional.of(new MongoPlace(Server.open(store, options.secrets(), true), store, options.rejects()));
    }
}
