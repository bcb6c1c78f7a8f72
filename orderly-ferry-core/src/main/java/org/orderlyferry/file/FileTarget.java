package org.orderlyferry.file;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.io.Compression;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.WriteOnlyPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/** A file that is to be written, with its definitions beside it. It stands in its place when it is whole, and not sooner. */
final class FileTarget extends WriteOnlyPlace {

    private final Path path;
    private final FileFormat format;
    private final Compression compression;
    private final FileSettings settings;

    FileTarget(Path path, FileFormat format, Compression compression, FileSettings settings) {
        super(WrittenPath.of(path));
        this.path = path;
        this.format = format;
        this.compression = compression;
        this.settings = settings;
        format.check(settings);
    }

    @Override
    public Loading begin(List<TableDefinition> tables, LoadModes modes, String plan) {
        if (Files.exists(path)) {
            LoadMode mode = modes.most();
            if (mode == LoadMode.CREATE) {
                throw new UsageException(path + " is there already; it is kept unless it is to be replaced");
            }
            if (mode != LoadMode.REPLACE || !modes.others().isEmpty()) {
                throw new UsageException("records can't be added to a file; it can only be replaced");
            }
        }
        try {
            return new FileLoading(NewFile.begin(path), format, compression, settings, tables);
        } catch (IOException e) {
            throw new PlaceException(path.toString(), "can't be made: " + e.getMessage(), e);
        }
    }

    @Override
    public Loading rehearse(List<TableDefinition> tables, LoadModes modes) {
        return new FileLoading(
                new NewFile(path, OutputStream.nullOutputStream()), format, compression, settings, tables);
    }

    @Override
    public String system() {
        return format.name();
    }
}
