package org.orderlyferry.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;

/** A script of some system's, as a place. */
final class GardenScript {

    private GardenScript() {}

    static Place open(Path folder, String dialect, String text) throws IOException {
        Path file = Files.writeString(Files.createTempDirectory(folder, "s").resolve("garden.sql"), text);
        return Places.open(
                PlaceAddress.of(file.toString()),
                OpenOptions.builder()
                        .files(OpenOptions.DEFAULT.files().with("dialect", dialect))
                        .build());
    }
}
