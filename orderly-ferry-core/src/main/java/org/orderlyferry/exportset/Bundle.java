package org.orderlyferry.exportset;

import com.github.luben.zstd.ZstdInputStream;
import com.github.luben.zstd.ZstdOutputStream;
import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveInputStream;
import org.apache.commons.compress.archivers.tar.TarArchiveOutputStream;
import org.orderlyferry.io.BoundedExpansion;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/** Ways to hold a whole folder in one file. */
enum Bundle {
    ZIP(".zip"),
    TAR_GZIP(".tar.gz", ".tgz"),
    TAR_ZSTD(".tar.zst", ".tzst");

    private static final int BUFFER = 64 * 1024;

    private final List<String> endings;

    Bundle(String... endings) {
        this.endings = List.of(endings);
    }

    /** The bundle that a file's name tells; empty where it tells none. */
    static Optional<Bundle> ofName(Path file) {
        String name =
                file.getFileName() == null ? "" : file.getFileName().toString().toLowerCase(Locale.ROOT);
        return Stream.of(values())
                .filter(b -> b.endings.stream().anyMatch(name::endsWith))
                .findFirst();
    }

    /** Puts a folder's files into a new file, which stands in its place when it is whole. */
    void pack(Path folder, Path file) {
        try {
            NewFile bundle = NewFile.begin(file);
            try {
                try (OutputStream out = new BufferedOutputStream(bundle, BUFFER);
                        Stream<Path> all = Files.walk(folder)) {
                    // what makes a folder a set comes last here too
                    List<Path> files = all.filter(Files::isRegularFile)
                            .filter(p -> !NewFolder.isHold(p))
                            .sorted(Comparator.comparing((Path p) -> p.endsWith(Layout.BAGIT))
                                    .thenComparing(Path::toString))
                            .toList();
                    if (this == ZIP) {
                        zip(folder, files, out);
                    } else {
                        tar(
                                folder,
                                files,
                                this == TAR_GZIP ? new GZIPOutputStream(out, BUFFER) : new ZstdOutputStream(out));
                    }
                }
                bundle.takePlace();
            } catch (IOException e) {
                bundle.discard();
                throw e;
            }
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be written: " + e.getMessage(), e);
        }
    }

    private static String nameIn(Path folder, Path file) {
        return folder.relativize(file).toString().replace('\\', '/');
    }

    private static void zip(Path folder, List<Path> files, OutputStream out) throws IOException {
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            for (Path file : files) {
                zip.putNextEntry(new ZipEntry(nameIn(folder, file)));
                Files.copy(file, zip);
                zip.closeEntry();
            }
        }
    }

    private static void tar(Path folder, List<Path> files, OutputStream out) throws IOException {
        try (TarArchiveOutputStream tar = new TarArchiveOutputStream(out, "UTF-8")) {
            tar.setLongFileMode(TarArchiveOutputStream.LONGFILE_POSIX);
            tar.setBigNumberMode(TarArchiveOutputStream.BIGNUMBER_POSIX);
            tar.setAddPaxHeadersForNonAsciiNames(true);
            for (Path file : files) {
                TarArchiveEntry entry = new TarArchiveEntry(nameIn(folder, file));
                entry.setSize(Files.size(file));
                tar.putArchiveEntry(entry);
                Files.copy(file, tar);
                tar.closeArchiveEntry();
            }
        }
    }

    /**
     * Takes a tar file's files out into a folder.
     *
     * @throws MalformedFileException if one of them would land elsewhere, or isn't a plain file
     */
    void unpack(Path file, Path folder) {
        try (InputStream in = new BufferedInputStream(Files.newInputStream(file), BUFFER);
                InputStream bounded = new BoundedExpansion(
                        in,
                        c -> this == TAR_GZIP ? new GZIPInputStream(c, BUFFER) : new ZstdInputStream(c),
                        file.toString());
                TarArchiveInputStream tar = new TarArchiveInputStream(bounded, "UTF-8")) {
            int entries = 0;
            for (TarArchiveEntry entry = tar.getNextEntry(); entry != null; entry = tar.getNextEntry()) {
                if (++entries > BundledSet.MOST_FILES) {
                    throw malformed(file, "has more than " + BundledSet.MOST_FILES + " entries");
                }
                if (entry.isSparse()) {
                    // what is written nowhere takes as much room as it says, of nothing
                    throw malformed(file, "its entry " + entry.getName() + " is sparse, as no set's files are");
                }
                Path target = folder.resolve(entry.getName()).normalize();
                if (!target.startsWith(folder) || target.equals(folder) && !entry.isDirectory()) {
                    throw malformed(file, "its file " + entry.getName() + " would be written outside of its folder");
                }
                if (entry.isDirectory()) {
                    Files.createDirectories(target);
                } else if (entry.isFile() && !entry.isLink() && !entry.isSymbolicLink()) {
                    Files.createDirectories(target.getParent());
                    Files.copy(tar, target);
                } else {
                    throw malformed(file, "its entry " + entry.getName() + " is no file, but a link or a device");
                }
            }
        } catch (IOException e) {
            throw malformed(file, "can't be unpacked: " + e.getMessage());
        }
    }

    private static MalformedFileException malformed(Path file, String what) {
        return new MalformedFileException(new Origin("", file.toString(), 0, true), what);
    }
}
