package org.orderlyferry.exportset;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.io.Compression;
import org.orderlyferry.problem.BrokenSetException;

/** A data file of a set. */
final class BagSource implements FileSource {

    private final Bag bag;
    private final String file;

    BagSource(Bag bag, String file) {
        this.bag = bag;
        this.file = file;
    }

    @Override
    public String shown() {
        return file;
    }

    @Override
    public String name() {
        String name = file.substring(file.lastIndexOf('/') + 1);
        return name.substring(
                0, name.length() - Compression.ofName(name).ending().length());
    }

    @Override
    public InputStream open() {
        try {
            return Compression.decompressed(Bag.open(bag.inside(file)), file);
        } catch (IOException e) {
            throw new BrokenSetException(bag.toString(), "the file " + file + " can't be read: " + e.getMessage());
        }
    }

    @Override
    public Optional<FileSource> beside(String name) {
        String beside = file.substring(0, file.lastIndexOf('/') + 1) + name;
        return Files.isRegularFile(bag.inside(beside)) ? Optional.of(new BagSource(bag, beside)) : Optional.empty();
    }

    @Override
    public Optional<Path> onDisk() {
        return seekable().filter(p -> p.getFileSystem().equals(FileSystems.getDefault()));
    }

    /** Inside of a ZIP file everything is read from its beginning. */
    @Override
    public Optional<Path> seekable() {
        Path path = bag.inside(file);
        boolean plain = Compression.ofName(file) == Compression.NONE
                && !path.getFileSystem().provider().getScheme().equals("jar");
        return plain ? Optional.of(path) : Optional.empty();
    }

    @Override
    public long bytes() {
        try {
            return Files.size(bag.inside(file));
        } catch (IOException e) {
            return -1;
        }
    }
}
