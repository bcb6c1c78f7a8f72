package org.orderlyferry.exportset;

import java.io.IOException;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import org.orderlyferry.io.BoundedExpansion;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/**
 * A folder inside of one file. A ZIP file is read where it stands; a tar file has no table of its contents, so it is
 * unpacked to a temporary folder for as long as it is read.
 */
final class BundledSet implements AutoCloseable {

    /** More files than any set has. */
    static final int MOST_FILES = 200_000;

    private final Path file;
    private final FileSystem zip;
    private final Path unpacked;

    private BundledSet(Path file, FileSystem zip, Path unpacked) {
        this.file = file;
        this.zip = zip;
        this.unpacked = unpacked;
    }

    static BundledSet open(Path file, Bundle bundle) {
        try {
            if (bundle == Bundle.ZIP) {
                FileSystem zip = FileSystems.newFileSystem(file);
                BundledSet set = new BundledSet(file, zip, null);
                try {
                    set.mustBeInProportion();
                } catch (IOException e) {
                    set.close();
                    throw e;
                }
                return set;
            }
            Path folder = Files.createTempDirectory("orderly-ferry-");
            BundledSet set = new BundledSet(file, null, folder);
            try {
                bundle.unpack(file, folder);
            } catch (RuntimeException e) {
                set.close();
                throw e;
            }
            return set;
        } catch (IOException e) {
            throw new MalformedFileException(
                    new Origin("", file.toString(), 0, true), "can't be read as a bundle: " + e.getMessage());
        }
    }

    private void mustBeInProportion() throws IOException {
        try (Stream<Path> all = Files.walk(root())) {
            List<Path> files =
                    all.filter(Files::isRegularFile).limit(MOST_FILES + 1L).toList();
            if (files.size() > MOST_FILES) {
                throw new IOException("it has more than " + MOST_FILES + " entries");
            }
            for (Path path : files) {
                long packed = ((Number) Files.getAttribute(path, "zip:compressedSize")).longValue();
                BoundedExpansion.mustBeInProportion(packed, Files.size(path), "its file " + path);
            }
        }
    }

    private Path root() {
        return zip == null ? unpacked : zip.getPath("/");
    }

    /** The set's folder: the outermost one, or the only one in it. */
    Path folder() {
        if (ExportSet.isSet(root())) {
            return root();
        }
        try (Stream<Path> inner = Files.list(root())) {
            List<Path> folders = inner.filter(Files::isDirectory).toList();
            if (folders.size() == 1 && ExportSet.isSet(folders.get(0))) {
                return folders.get(0);
            }
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be read: " + e.getMessage(), e);
        }
        throw new BrokenSetException(
                file.toString(), "it has no bagit.txt: no export set is in it, or an incomplete one");
    }

    @Override
    public void close() {
        try {
            if (zip != null) {
                zip.close();
            }
            if (unpacked != null && Files.exists(unpacked)) {
                try (Stream<Path> all = Files.walk(unpacked)) {
                    for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                        Files.delete(path);
                    }
                }
            }
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be closed: " + e.getMessage(), e);
        }
    }
}
