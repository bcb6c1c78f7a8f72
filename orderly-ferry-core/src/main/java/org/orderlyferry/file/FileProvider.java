package org.orderlyferry.file;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.io.Compression;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.PlaceProvider;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/** Opens single files of any format that is at hand. */
@API(status = API.Status.INTERNAL)
public final class FileProvider implements PlaceProvider {

    @Override
    public Optional<Place> open(PlaceAddress address, OpenOptions options) {
        Optional<FilePattern> pattern =
                Files.exists(address.path()) ? Optional.empty() : FilePattern.of(address.path());
        if (pattern.isPresent()) {
            return Optional.of(place(OneTable.of(pattern.get(), options), options));
        }
        if (!Files.isRegularFile(address.path())) {
            return Optional.empty();
        }
        try {
            DiskFile file = DiskFile.of(address.path());
            Optional<FileFormat> format =
                    options.format().isPresent() ? options.format().map(FileFormats::named) : FileFormats.of(file);
            return format.map(f -> place(new FilePlace(file, f, options), options));
        } catch (IOException e) {
            throw new PlaceException(address.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    /** Several tables without definitions may refer to each other. */
    private static Place place(FilePlace file, OpenOptions options) {
        List<String> told = options.proposing().told();
        if (!told.isEmpty() && file.tables().stream().noneMatch(file::isProposed)) {
            file.close();
            throw new UsageException("what is told about a file without definitions (" + String.join(", ", told)
                    + ") is of no use for " + file.address() + ", which has some"
                    + file.besideDescription()
                            .map(d -> ": " + d + ", which lies beside it")
                            .orElse(""));
        }
        boolean several = file.tables().size() > 1 && file.tables().stream().anyMatch(file::isProposed);
        return several ? new FolderPlace(file.address(), file.system(), List.of(file)) : file;
    }

    @Override
    public Optional<TargetPlace> openTarget(PlaceAddress address, OpenOptions options) {
        if (Files.isDirectory(address.path())) {
            return Optional.empty();
        }
        Path path = address.path();
        String name = path.getFileName().toString();
        Compression compression = Compression.ofName(name);
        String bare = name.substring(0, name.length() - compression.ending().length());
        String ending = bare.substring(bare.lastIndexOf('.') + 1).toLowerCase(java.util.Locale.ROOT);
        Optional<FileFormat> format =
                options.format().isPresent() ? options.format().map(FileFormats::named) : FileFormats.ofEnding(ending);
        return format.map(f -> new FileTarget(path, f, compression, options.files()));
    }
}
