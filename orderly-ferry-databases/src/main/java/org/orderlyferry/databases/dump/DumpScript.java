package org.orderlyferry.databases.dump;

import com.github.luben.zstd.ZstdInputStream;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Iterator;
import java.util.Optional;
import java.util.function.Function;
import java.util.zip.InflaterInputStream;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveInputStream;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.ForwardingSource;
import org.orderlyferry.io.Compression;

/**
 * A dump as the script that PostgreSQL's own tool would make of it: what is made before records, the records of each table, and what
 * is made behind them. Nothing of it is run.
 */
public final class DumpScript extends ForwardingSource {

    /** The file of a dump in a folder that says what is in it. */
    public static final String TOC = "toc.dat";

    private static final int TAR_MARK = 257;

    private final DumpToc.Form form;
    private final Optional<Path> folder;

    private DumpScript(FileSource file, DumpToc.Form form, Optional<Path> folder) {
        super(file);
        this.form = form;
        this.folder = folder;
    }

    /** Whether a file's first bytes are those of a dump in one file. */
    public static boolean isDump(byte[] head) {
        return form(head).isPresent();
    }

    private static Optional<DumpToc.Form> form(byte[] head) {
        if (begins(head, 0, DumpToc.MAGIC)) {
            return Optional.of(DumpToc.Form.CUSTOM);
        }
        boolean tar = begins(head, 0, (TOC + '\0').getBytes(StandardCharsets.US_ASCII))
                && begins(head, TAR_MARK, "ustar".getBytes(StandardCharsets.US_ASCII));
        return tar ? Optional.of(DumpToc.Form.TAR) : Optional.empty();
    }

    private static boolean begins(byte[] head, int at, byte[] with) {
        return head.length >= at + with.length && Arrays.equals(head, at, at + with.length, with, 0, with.length);
    }

    /** A file as a script: the file itself, unless it is a dump. */
    public static FileSource of(FileSource file) throws IOException {
        if (file instanceof DumpScript) {
            return file;
        }
        byte[] head;
        try (InputStream in = file.open()) {
            head = in.readNBytes(TAR_MARK + 5);
        }
        return form(head)
                .<FileSource>map(f -> new DumpScript(file, f, Optional.empty()))
                .orElse(file);
    }

    /**
     * A folder as a script, if it is a dump.
     *
     * @param toc gives the file of a path
     */
    public static Optional<FileSource> of(Path folder, Function<Path, FileSource> toc) throws IOException {
        Path contents = folder.resolve(TOC);
        if (!Files.isRegularFile(contents)) {
            return Optional.empty();
        }
        try (InputStream in = Files.newInputStream(contents)) {
            if (!Arrays.equals(in.readNBytes(DumpToc.MAGIC.length), DumpToc.MAGIC)) {
                return Optional.empty();
            }
        }
        return Optional.of(new DumpScript(toc.apply(contents), DumpToc.Form.DIRECTORY, Optional.of(folder)));
    }

    @Override
    public String shown() {
        return folder.map(Path::toString).orElse(super.shown());
    }

    @Override
    public String name() {
        return folder.map(f -> f.getFileName().toString()).orElse(super.name());
    }

    /** It stands nowhere as it is read. */
    @Override
    public Optional<Path> onDisk() {
        return Optional.empty();
    }

    /** Its bytes are others than the dump's. */
    @Override
    public long bytes() {
        return folder.isPresent() ? -1 : super.bytes();
    }

    @Override
    public InputStream open() throws IOException {
        InputStream in = file().open();
        try {
            return switch (form) {
                case CUSTOM -> new Blocks(in, DumpToc.read(in));
                case TAR -> new Parts(in);
                case DIRECTORY -> {
                    DumpToc toc = DumpToc.read(in);
                    in.close();
                    yield new FolderParts(toc, folder.orElseThrow());
                }
            };
        } catch (IOException | RuntimeException e) {
            in.close();
            throw e;
        }
    }

    /** A dump in one file: behind the contents, each table's data in chunks. */
    private static final class Blocks extends ScriptStream {

        private static final int DATA = 1;
        private static final int LARGE_OBJECTS = 3;

        private final InputStream in;
        private final TocBytes bytes;
        private final DumpToc.Packing packing;
        private Chunks chunks;

        Blocks(InputStream in, DumpToc toc) {
            super(toc);
            this.in = in;
            this.packing = toc.packing();
            this.bytes = new TocBytes(in);
        }

        @Override
        Optional<Data> data() throws IOException {
            while (true) {
                if (chunks != null) {
                    chunks.skipRest();
                }
                int kind = in.read();
                if (kind < 0) {
                    return Optional.empty();
                }
                int id = bytes.number();
                if (kind == DATA) {
                    chunks = new Chunks(in);
                    return Optional.of(new Data(entry(id), unpacked(chunks, packing)));
                }
                if (kind != LARGE_OBJECTS) {
                    throw new IOException("it has a part of a kind that isn't known here; it is damaged");
                }
                // large objects, of which the contents have a statement each, which is told
                while (bytes.number() != 0) {
                    new Chunks(in).skipRest();
                }
                chunks = null;
            }
        }

        @Override
        public void close() throws IOException {
            in.close();
        }
    }

    private static InputStream unpacked(InputStream in, DumpToc.Packing packing) throws IOException {
        return switch (packing) {
            case NONE -> in;
            case ZLIB -> new InflaterInputStream(in);
            case ZSTD -> new ZstdInputStream(in);
            case LZ4 ->
                throw new IOException("its data are compressed by LZ4; PostgreSQL's own tool can make a script of it");
        };
    }

    /** A dump in a tar file: the contents, and a file for each table's data. */
    private static final class Parts extends ScriptStream {

        private final TarArchiveInputStream tar;

        Parts(InputStream in) throws IOException {
            this(new TarArchiveInputStream(in));
        }

        private Parts(TarArchiveInputStream tar) throws IOException {
            super(contents(tar));
            this.tar = tar;
        }

        private static DumpToc contents(TarArchiveInputStream tar) throws IOException {
            TarArchiveEntry first = tar.getNextEntry();
            if (first == null || !first.getName().equals(TOC)) {
                throw new IOException("its first part isn't its table of contents");
            }
            return DumpToc.read(tar);
        }

        @Override
        Optional<Data> data() throws IOException {
            for (TarArchiveEntry part = tar.getNextEntry(); part != null; part = tar.getNextEntry()) {
                Optional<TocEntry> entry = entry(part.getName());
                if (entry.isPresent()) {
                    return Optional.of(new Data(entry.get(), tar));
                }
            }
            return Optional.empty();
        }

        @Override
        public void close() throws IOException {
            tar.close();
        }
    }

    /** A dump in a folder: a file for each table's data, compressed or not. */
    private static final class FolderParts extends ScriptStream {

        private final Path folder;
        private final Iterator<TocEntry> tables;
        private InputStream open = new ByteArrayInputStream(new byte[0]);

        FolderParts(DumpToc toc, Path folder) {
            super(toc);
            this.folder = folder;
            this.tables = toc.entries().stream()
                    .filter(e -> e.isData() && !e.file().isEmpty())
                    .iterator();
        }

        @Override
        Optional<Data> data() throws IOException {
            open.close();
            if (!tables.hasNext()) {
                return Optional.empty();
            }
            TocEntry entry = tables.next();
            if (!entry.file().matches("[0-9A-Za-z_]+\\.dat")) {
                throw new IOException("its contents name a file that isn't one of its own: " + entry.file());
            }
            for (String ending : new String[] {"", ".gz", ".zst"}) {
                Path path = folder.resolve(entry.file() + ending);
                if (Files.isRegularFile(path)) {
                    open = Compression.decompressed(
                            Files.newInputStream(path), path.getFileName().toString());
                    return Optional.of(new Data(entry, open));
                }
            }
            throw new IOException(
                    "its part " + entry.file() + " is missing, or compressed in a way that isn't read here");
        }

        @Override
        public void close() throws IOException {
            open.close();
        }
    }
}
