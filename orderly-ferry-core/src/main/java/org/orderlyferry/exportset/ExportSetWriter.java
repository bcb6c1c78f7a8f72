package org.orderlyferry.exportset;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.orderlyferry.csvw.Annotations;
import org.orderlyferry.csvw.CsvwNames;
import org.orderlyferry.csvw.CsvwSchemaWriter;
import org.orderlyferry.format.Compression;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.GrownFile;
import org.orderlyferry.format.SideFile;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.tally.TallyTaker;

/**
 * Makes a new export set. It grows under another name beside its place and takes that place when it is complete; until
 * then, whatever stood there stays as it was, and closing leaves nothing behind. Several threads may write files at once.
 */
public final class ExportSetWriter implements AutoCloseable {

    private static final ObjectMapper JSON =
            JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

    private final Path place;
    private final Optional<Bundle> bundle;
    private final NewFolder folder;
    private final FileFormat format;
    private final FileSettings settings;
    private final String system;
    private final Map<TableName, TableDefinition> tables = new LinkedHashMap<>();
    private final Map<TableName, String> fileNames = new LinkedHashMap<>();
    private final FileNames names = new FileNames();
    private final Compression compression;
    private final Map<TableName, Map<Integer, Done>> done = new LinkedHashMap<>();
    private final Set<TableName> leftOut = new HashSet<>();
    private final Map<String, String> parts = new HashMap<>();
    private final Map<String, String> payloadSums = new TreeMap<>();
    private long payloadBytes;

    /**
     * Begins a set.
     *
     * @param set where the set is to stand
     * @param overwrite whether an existing set may be replaced
     * @param format what kind of files it has, each of one table
     * @param settings how they are written
     * @param compression of its data files
     * @param system what the records come from, as the set is to say it
     * @throws org.orderlyferry.problem.UsageException if something stands there that may not be replaced
     */
    public ExportSetWriter(
            Path set,
            boolean overwrite,
            FileFormat format,
            FileSettings settings,
            Compression compression,
            String system,
            List<TableDefinition> tables) {
        this.bundle = Bundle.ofName(set);
        this.place = set;
        if (bundle.isPresent()) {
            if (Files.exists(set) && !overwrite) {
                throw new UsageException(set + " is there already; it is kept unless --overwrite is given");
            }
            // grows as a folder beside the file, and is packed when it is whole
            Path beside = set.resolveSibling("." + set.getFileName() + ".unpacked");
            this.folder = NewFolder.begin(beside, true);
        } else {
            this.folder = NewFolder.begin(set, overwrite);
        }
        format.check(settings);
        this.format = format;
        this.settings = settings;
        this.compression = compression;
        this.system = system;
        for (TableDefinition table : tables) {
            this.tables.put(table.name(), table);
            fileNames.put(table.name(), names.of(table.name()));
        }
    }

    /** What runs that were killed had left for the same place, and is gone now. */
    public List<Path> cleared() {
        return folder.cleared();
    }

    /** What is needed no more and couldn't be removed, such as the set that stood there before; known when it is complete. */
    public Optional<Path> notRemoved() {
        return folder.notRemoved();
    }

    /** A file that is finished. */
    private record Done(String path, long bytes, Tally tally) {}

    /**
     * A writer for the file of one of the tables; the file goes if it is closed before it is finished.
     *
     * @param taker counts the file's records, on whatever thread suits; has seen them all when the writer is finished
     */
    public TableFile file(TableName table, TallyTaker taker) {
        return new TableFile(table, path(fileNames.get(table)), 1, taker);
    }

    /**
     * A writer for one of several files of a table, otherwise like {@link #file}.
     *
     * @param number from 1, in the order in which they are to be read
     */
    public TableFile part(TableName table, int number, TallyTaker taker) {
        String name;
        synchronized (this) {
            name = parts.computeIfAbsent(
                    fileNames.get(table) + '/' + number, p -> names.part(fileNames.get(table), number));
        }
        return new TableFile(table, path(name), number, taker);
    }

    private String path(String name) {
        return Layout.DATA + "/" + name + "." + format.endings().get(0) + compression.ending();
    }

    /** Takes a table out of the set again, with what was written of it, or still is. */
    public synchronized void leaveOut(TableName table) {
        leftOut.add(table);
        Map<Integer, Done> files = done.remove(table);
        if (files != null) {
            for (Done file : files.values()) {
                payloadSums.remove(file.path());
                payloadBytes -= file.bytes();
                remove(file.path());
            }
        }
    }

    private void remove(String path) {
        try {
            Files.deleteIfExists(folder.resolve(path));
        } catch (IOException e) {
            throw failed(e);
        }
    }

    /** Adds definitions, tallies and checksums, and puts the set in its place. */
    public void complete(List<LeftBehind> leftBehind) {
        tables.keySet().removeAll(leftOut);
        fileNames.keySet().removeAll(leftOut);
        try {
            Map<String, String> tagSums = new TreeMap<>();
            tag(Layout.DEFINITIONS, JSON.writeValueAsBytes(definitions(leftBehind)), tagSums);
            Map<TableName, String> schemaFiles = new LinkedHashMap<>();
            fileNames.forEach((table, name) -> schemaFiles.put(table, name + ".json"));
            CsvwSchemaWriter schemas = new CsvwSchemaWriter(schemaFiles);
            for (TableDefinition table : tables.values()) {
                tag(
                        Layout.TABLE_DEFINITIONS + "/" + schemaFiles.get(table.name()),
                        JSON.writeValueAsBytes(schemas.write(table)),
                        tagSums);
                for (SideFile side : format.sideFiles(fileNames.get(table.name()), List.of(table), settings)) {
                    tag(Layout.TABLE_DEFINITIONS + "/" + side.name(), side.content(), tagSums);
                }
            }
            tag(Layout.TALLIES, JSON.writeValueAsBytes(tallies().write()), tagSums);
            tag(Layout.MANIFEST, manifest(payloadSums), tagSums);
            tag(Layout.BAG_INFO, bagInfo(), tagSums);
            tag(Layout.TAG_MANIFEST, manifest(tagSums), new TreeMap<>());
            // Last: a folder without it is no bag, so a set that was cut short never looks complete.
            tag(
                    Layout.BAGIT,
                    "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n".getBytes(StandardCharsets.UTF_8),
                    new TreeMap<>());
        } catch (IOException e) {
            throw failed(e);
        }
        if (bundle.isPresent()) {
            bundle.get().pack(folder.growing(), place);
            folder.packed();
        } else {
            folder.takePlace();
        }
    }

    private void tag(String name, byte[] content, Map<String, String> sums) throws IOException {
        BagFile file = new BagFile(folder.resolve(name));
        try (file) {
            file.write(content);
        }
        sums.put(name, file.sha256());
    }

    private static byte[] manifest(Map<String, String> sums) {
        StringBuilder lines = new StringBuilder();
        sums.forEach((file, sum) -> lines.append(sum)
                .append("  ")
                .append(file.replace("%", "%25").replace("\n", "%0A").replace("\r", "%0D"))
                .append('\n'));
        return lines.toString().getBytes(StandardCharsets.UTF_8);
    }

    private byte[] bagInfo() {
        String text = "Bagging-Date: " + LocalDate.now(ZoneOffset.UTC) + "\n"
                + "Bag-Software-Agent: Orderly Ferry\n"
                + "Payload-Oxum: " + payloadBytes + "." + payloadSums.size() + "\n"
                + Layout.VERSION_LABEL + ": " + Layout.VERSION + "\n";
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private KeptTallies tallies() {
        KeptTallies tallies = new KeptTallies();
        for (TableName table : tables.keySet()) {
            List<KeptTallies.KeptFile> files = new ArrayList<>();
            Tally sum = null;
            for (Done file : done.get(table).values()) {
                files.add(new KeptTallies.KeptFile(
                        file.path(),
                        file.bytes(),
                        file.tally().rows(),
                        file.tally().digest()));
                sum = sum == null ? file.tally() : sum.plus(file.tally());
            }
            tallies.put(table, new KeptTallies.Kept(files, sum));
        }
        return tallies;
    }

    private ObjectNode definitions(List<LeftBehind> leftBehind) {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("@context", "http://www.w3.org/ns/csvw");
        root.put("@type", "TableGroup");
        SetFormat.write(format, settings, root);
        ArrayNode list = root.putArray("tables");
        for (TableName table : tables.keySet()) {
            for (Done file : done.get(table).values()) {
                ObjectNode node = list.addObject();
                node.put("url", CsvwNames.url(file.path()));
                node.put("tableSchema", CsvwNames.url(Layout.TABLE_DEFINITIONS + "/" + fileNames.get(table) + ".json"));
            }
        }
        root.put(Annotations.SYSTEM, system);
        root.put(Annotations.QUOTED_IS_VALUE, true);
        ArrayNode left = root.putArray(Annotations.LEFT_BEHIND);
        for (LeftBehind thing : leftBehind) {
            left.addObject()
                    .put(Annotations.KIND, thing.kind())
                    .put(Annotations.NAME, thing.name())
                    .put(Annotations.REASON, thing.reason());
        }
        return root;
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(
                place.toString(), "can't be written: " + e.getMessage() + "; nothing was left there", e);
    }

    @Override
    public void close() {
        folder.close();
    }

    /** One table's file, with its checksum taken in passing. */
    public final class TableFile implements RecordWriter {

        private final TableName table;
        private final String path;
        private final int number;
        private final TallyTaker taker;
        private final BagFile file;
        private final TablesWriter whole;
        private final RecordWriter writer;
        private boolean kept;

        private TableFile(TableName table, String path, int number, TallyTaker taker) {
            this.table = table;
            this.path = path;
            this.number = number;
            this.taker = taker;
            try {
                this.file = new BagFile(folder.resolve(path));
                this.whole = format.write(compression.compress(file), path, List.of(tables.get(table)), settings);
                this.writer = whole.writer(tables.get(table));
            } catch (IOException e) {
                throw failed(e);
            }
        }

        @Override
        public void write(RecordBatch batch) {
            try {
                writer.write(batch);
            } catch (PlaceException e) {
                throw e.getCause() instanceof IOException io ? failed(io) : e;
            }
        }

        @Override
        public void finish() {
            try {
                writer.finish();
                writer.close();
                whole.finish();
                grown();
                whole.close();
            } catch (PlaceException e) {
                throw e.getCause() instanceof IOException io ? failed(io) : e;
            }
            synchronized (ExportSetWriter.this) {
                if (leftOut.contains(table)) {
                    return;
                }
                payloadSums.put(path, file.sha256());
                payloadBytes += file.bytes();
                done.computeIfAbsent(table, t -> new TreeMap<>())
                        .put(number, new Done(path, file.bytes(), taker.tally()));
                kept = true;
            }
        }

        /** Takes files along that grew beside this one. */
        private void grown() {
            try {
                for (GrownFile other : whole.grownFiles()) {
                    String bare = path.substring(
                            0, path.length() - Compression.ofName(path).ending().length());
                    // a table's name may have points of its own
                    String beside = bare.substring(0, bare.lastIndexOf('.') + 1) + other.ending();
                    BagFile copy = new BagFile(folder.resolve(beside));
                    try (copy) {
                        Files.copy(other.content(), copy);
                    }
                    synchronized (ExportSetWriter.this) {
                        payloadSums.put(beside, copy.sha256());
                        payloadBytes += copy.bytes();
                    }
                }
            } catch (IOException e) {
                throw failed(e);
            }
        }

        /** How many bytes the file has so far. */
        public long bytes() {
            return file.bytes();
        }

        @Override
        public void close() {
            try {
                whole.close();
            } finally {
                if (!kept) {
                    remove(path);
                }
            }
        }
    }
}
