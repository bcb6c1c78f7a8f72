package org.orderlyferry.documents.store;

import java.util.Optional;
import java.util.Set;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.PlaceProvider;
import org.orderlyferry.place.TargetPlace;

/** Opens projects of stores that are reached over HTTP with a key file. */
public final class ProjectProvider implements PlaceProvider {

    @Override
    public Set<String> schemes() {
        return Set.of("store");
    }

    private static ProjectPlace place(PlaceAddress address, OpenOptions options) {
        options.mustBeOfNoFile(address, "a project's store");
        ProjectAddress project = ProjectAddress.of(address, options.secrets());
        ProjectPlace place = new ProjectPlace(new Client(project, KeyFile.read(project.key())), options.rejects());
        place.all();
        return place;
    }

    @Override
    public Optional<Place> open(PlaceAddress address, OpenOptions options) {
        return Optional.of(place(address, options));
    }

    @Override
    public Optional<TargetPlace> openTarget(PlaceAddress address, OpenOptions options) {
        return Optional.of(place(address, options));
    }
}
