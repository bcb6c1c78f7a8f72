package org.orderlyferry.exportset;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.PlaceProvider;
import org.orderlyferry.problem.BrokenSetException;

/** Opens folders as export sets. */
public final class ExportSetProvider implements PlaceProvider {

    @Override
    public Optional<Place> open(PlaceAddress address, OpenOptions options) {
        Optional<Bundle> bundle = Bundle.ofName(address.path());
        if (bundle.isPresent() && Files.isRegularFile(address.path())) {
            return Optional.of(ExportSet.open(address.path(), BundledSet.open(address.path(), bundle.get())));
        }
        if (!Files.isDirectory(address.path())) {
            return Optional.empty();
        }
        Path folder = address.path();
        if (!ExportSet.isSet(folder)) {
            throw new BrokenSetException(
                    address.toString(),
                    "the folder has no bagit.txt: it is no export set, or one that was never completed");
        }
        return Optional.of(ExportSet.open(folder, options.files()));
    }
}
