package org.orderlyferry.exportset;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.PlaceProvider;

/** Opens single delimited files. */
public final class CsvFileProvider implements PlaceProvider {

    private static final Set<String> ENDINGS = Set.of("csv", "tsv", "tab", "txt", "psv");

    @Override
    public Optional<Place> open(PlaceAddress address, OpenOptions options) {
        if (address.isJdbc()) {
            return Optional.empty();
        }
        Path file = address.path();
        String name = file.toString().toLowerCase(Locale.ROOT);
        String ending = name.substring(name.lastIndexOf('.') + 1);
        return Files.isRegularFile(file) && ENDINGS.contains(ending)
                ? Optional.of(new CsvFile(file, options))
                : Optional.empty();
    }
}
