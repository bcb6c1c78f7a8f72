package org.orderlyferry.file;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.apiguardian.api.API;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.PlaceProvider;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/** Opens folders that are no export sets and hold files of formats that are at hand. */
@API(status = API.Status.INTERNAL)
public final class FolderProvider implements PlaceProvider {

    /** What a set has; a folder with these and without the rest is a set that was cut short. */
    private static final List<String> SET_FILES = List.of("bagit.txt", "definitions.json", "tallies.json");

    @Override
    public Optional<Place> open(PlaceAddress address, OpenOptions options) {
        if (!Files.isDirectory(address.path())) {
            return Optional.empty();
        }
        Path folder = address.path();
        if (SET_FILES.stream().anyMatch(f -> Files.exists(folder.resolve(f)))
                || Files.isDirectory(folder.resolve("data"))) {
            return Optional.empty();
        }
        Optional<Place> whole = whole(folder, options);
        if (whole.isPresent()) {
            return whole;
        }
        Optional<Place> parts = parts(folder, options);
        if (parts.isPresent()) {
            return parts;
        }
        List<FilePlace> files = new ArrayList<>();
        try (Stream<Path> all = Files.list(folder)) {
            for (Path path : all.filter(Files::isRegularFile).sorted().toList()) {
                file(path, options).ifPresent(files::add);
            }
        } catch (IOException e) {
            throw new PlaceException(folder.toString(), "can't be read: " + e.getMessage(), e);
        }
        if (files.isEmpty()) {
            return Optional.empty();
        }
        if (files.size() > 1 && options.proposing().key().isPresent()) {
            throw new UsageException(
                    folder + " has several files, and a key was told for one table; name its file alone");
        }
        return Optional.of(new FolderPlace(WrittenPath.of(folder), "folder of " + files.size() + " files", files));
    }

    private static Optional<Place> parts(Path folder, OpenOptions options) {
        try {
            Optional<PartFolder> parts = PartFolder.of(folder);
            return parts.isPresent() ? Optional.of(parts.get().place(options)) : Optional.empty();
        } catch (IOException e) {
            throw new PlaceException(folder.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    /** The folder as one file, where a format has such. */
    private static Optional<Place> whole(Path folder, OpenOptions options) {
        try {
            for (FileFormat format : FileFormats.all()) {
                Optional<FileSource> file = format.wholeFolder(folder, FolderProvider::part);
                if (file.isPresent()) {
                    return Optional.of(new FilePlace(file.get(), format, options));
                }
            }
            return Optional.empty();
        } catch (IOException e) {
            throw new PlaceException(folder.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    private static FileSource part(Path path) {
        try {
            return DiskFile.of(path);
        } catch (IOException e) {
            throw new PlaceException(path.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    private static Optional<FilePlace> file(Path path, OpenOptions options) throws IOException {
        String name = path.getFileName().toString();
        if (FilePattern.isAside(name)) {
            return Optional.empty();
        }
        DiskFile file = DiskFile.of(path);
        Optional<FileFormat> format = FileFormats.ofEnding(file.ending());
        boolean known = format.isPresent() && !file.ending().equals("txt");
        return known ? FileFormats.of(file).map(f -> new FilePlace(file, f, options)) : Optional.empty();
    }
}
