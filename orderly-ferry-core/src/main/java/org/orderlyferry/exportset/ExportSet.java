package org.orderlyferry.exportset;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import org.orderlyferry.csvw.Annotations;
import org.orderlyferry.csvw.CsvwNames;
import org.orderlyferry.csvw.CsvwSchemaReader;
import org.orderlyferry.csvw.JsonFile;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.delimited.DelimitedFormat;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.RangedReader;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.ChainedReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.fit.CheckedReader;
import org.orderlyferry.tally.Tally;

/**
 * An export set to read from. Opening it reads its definitions and tallies; {@link #verify()} checks it to the last
 * byte. Records are checked against their definitions as they are read.
 */
public final class ExportSet implements Place {

    private final Path folder;
    private final String shown;
    private final Optional<BundledSet> bundled;
    private final Bag bag;
    private final FileSettings told;
    /** How the files were written, and how they are read. */
    private final SetFormat made;

    private final SetFormat format;
    private final String system;
    private final KeptTallies tallies;
    private final Map<TableName, TableDefinition> tables = new LinkedHashMap<>();
    private final Map<TableName, List<String>> files = new LinkedHashMap<>();
    private final List<LeftBehind> leftBehind = new ArrayList<>();
    /** Of its files, once somebody has asked. */
    private Optional<Map<String, Long>> sizes = Optional.empty();

    private ExportSet(Path folder, String shown, Optional<BundledSet> bundled, FileSettings told) {
        this.folder = folder;
        this.shown = shown;
        this.bundled = bundled;
        this.told = told;
        this.bag = new Bag(folder);
        bag.checkVersion();
        JsonNode root = json(Layout.DEFINITIONS);
        this.made = SetFormat.read(root, address());
        this.format = new SetFormat(made.format(), told.or(made.settings()));
        format.format().check(format.settings());
        this.system = root.path(Annotations.SYSTEM).asText("");
        this.tallies = KeptTallies.read(json(Layout.TALLIES), address());
        CsvwSchemaReader schemas = new CsvwSchemaReader(address());
        // of many files that have the same
        Map<String, TableDefinition> read = new HashMap<>();
        for (JsonNode node : root.path("tables")) {
            String file = CsvwNames.path(node.path("url").asText());
            String schema = CsvwNames.path(node.path("tableSchema").asText());
            bag.within(file);
            TableDefinition table = read.computeIfAbsent(schema, name -> schemas.read(json(name), name));
            tables.put(table.name(), table);
            files.computeIfAbsent(table.name(), t -> new ArrayList<>()).add(file);
        }
        Map<String, TableName> names = new HashMap<>();
        tables.keySet().forEach(t -> names.put(t.text(), t));
        root.path(Annotations.LEFT_BEHIND)
                .forEach(node -> leftBehind.add(new LeftBehind(
                        node.path(Annotations.KIND).asText(),
                        node.path(Annotations.NAME).asText(),
                        node.path(Annotations.REASON).asText(),
                        Optional.ofNullable(
                                names.get(node.path(Annotations.TABLE).asText())))));
    }

    /**
     * Opens a set.
     *
     * @throws BrokenSetException if the folder isn't a set, or one of an unknown version
     */
    public static ExportSet open(Path folder) {
        if (!Files.isDirectory(folder)) {
            throw new PlaceException(folder.toString(), "there is no such folder", null);
        }
        return open(folder, FileSettings.NONE);
    }

    /**
     * Opens a set whose files may be written otherwise by now.
     *
     * @param told how they are written; what isn't told is as the set says
     */
    static ExportSet open(Path folder, FileSettings told) {
        return new ExportSet(folder, WrittenPath.of(folder), Optional.empty(), told);
    }

    /** Opens a set inside of a file, which is closed with it. */
    static ExportSet open(Path file, BundledSet bundled) {
        try {
            return new ExportSet(bundled.folder(), WrittenPath.of(file), Optional.of(bundled), FileSettings.NONE);
        } catch (RuntimeException e) {
            bundled.close();
            throw e;
        }
    }

    /** Whether a folder claims to be an export set. */
    public static boolean isSet(Path folder) {
        return Bag.isBag(folder);
    }

    private JsonNode json(String name) {
        Path file = bag.inside(name);
        if (!Files.isRegularFile(file)) {
            throw new BrokenSetException(address(), "the file " + name + " is missing");
        }
        return JsonFile.read(file, name, address());
    }

    @Override
    public String address() {
        return shown;
    }

    @Override
    public String system() {
        // of a set that was made from a set, what matters is where its records come from
        String first = system.replaceFirst("^(?:export set(?: from )?)+", "");
        return "export set" + (first.isEmpty() ? "" : " from " + first);
    }

    @Override
    public List<TableName> tables() {
        return tables.keySet().stream().sorted().toList();
    }

    @Override
    public TableDefinition define(TableName table) {
        TableDefinition definition = tables.get(table);
        if (definition == null) {
            throw new UsageException("there is no table " + table + " in " + address());
        }
        return definition;
    }

    @Override
    public long count(TableName table) {
        long rows = 0;
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = unchecked(Slice.whole(define(table)), Rejects.STOP)) {
            while (reader.read(batch)) {
                rows += batch.rows();
            }
        }
        return rows;
    }

    /** As its tally says; who must know counts. */
    @Override
    public long estimate(TableName table) {
        return keptTally(table).map(Tally::rows).orElseGet(() -> count(table));
    }

    @Override
    public OptionalLong bytes(TableName table) {
        Map<String, Long> there = sizes.orElseGet(bag::listed);
        sizes = Optional.of(there);
        long bytes = 0;
        for (String file : files.get(table)) {
            Long size = there.get(file);
            if (size == null) {
                throw new BrokenSetException(address(), "the file " + file + " is missing");
            }
            bytes += Math.max(0, size);
        }
        return OptionalLong.of(bytes);
    }

    /** A slice for each file. */
    @Override
    public List<Slice> cut(TableDefinition table, long rows, Cut cut) {
        int parts = files.get(table.name()).size();
        return parts == 1
                ? List.of(Slice.whole(table))
                : IntStream.rangeClosed(1, parts)
                        .mapToObj(FilePiece::ofFile)
                        .map(Slice.whole(table)::of)
                        .toList();
    }

    @Override
    public Companions companions(int count) {
        List<Place> others = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            others.add(new ExportSet(folder, shown, Optional.empty(), told));
        }
        return new Companions(others, List.of());
    }

    @Override
    public Optional<Tally> keptTally(TableName table) {
        return Optional.ofNullable(tallies.get(table)).map(KeptTallies.Kept::tally);
    }

    @Override
    public List<Finding> notices() {
        return tallies.areKnown()
                ? List.of()
                : List.of(Finding.ofAll(
                        FindingCode.TALLY_UNKNOWN,
                        "its tallies were taken in another way than this program does, and can't be compared with; its"
                                + " checksums are"));
    }

    /** Its definitions and checksums, and how its files are read. */
    @Override
    public Optional<String> state() {
        return Optional.of(bag.identity() + " " + new java.util.TreeMap<>(told.values()));
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return List.copyOf(leftBehind);
    }

    @Override
    public void verify(Runnable check) {
        try {
            bag.verify(check);
        } catch (BrokenSetException e) {
            List<Finding> changes = changes(check);
            if (changes.isEmpty()) {
                throw e;
            }
            throw new BrokenSetException(
                    address(),
                    e.what() + "\n  "
                            + Listed.of(changes, "\n  ")
                            + "\nIf that is wanted, tell the load to accept changes.");
        }
    }

    @Override
    public void verifyFiles() {
        Map<String, Long> made = new HashMap<>();
        tables.keySet().forEach(table -> Optional.ofNullable(tallies.get(table)).stream()
                .flatMap(kept -> kept.files().stream())
                .forEach(file -> made.put(file.file(), file.bytes())));
        bag.verifyFiles(made);
    }

    /**
     * What is different about the set's files since it was made; nothing where every checksum holds. Reads all of them.
     */
    public List<Finding> changes() {
        return changes(() -> {});
    }

    private List<Finding> changes(Runnable check) {
        List<String> changed = bag.changed(check);
        SetChanges changes = new SetChanges(bag, made.settings());
        for (String file : changed) {
            Optional<TableName> table = files.entrySet().stream()
                    .filter(e -> e.getValue().contains(file))
                    .map(Map.Entry::getKey)
                    .findFirst();
            if (table.isEmpty()) {
                continue;
            }
            if (!Files.isRegularFile(bag.inside(file))) {
                changes.findings()
                        .add(Finding.of(FindingCode.SET_CHANGED, table.get(), "the file " + file + " is missing"));
            } else {
                changes.findings()
                        .add(Finding.of(
                                FindingCode.SET_CHANGED,
                                table.get(),
                                "the file " + file + " was changed after the set was made"));
                KeptTallies.Kept kept = tallies.get(table.get());
                if (format.format() instanceof DelimitedFormat
                        && kept != null
                        && kept.files().size() == 1) {
                    changes.look(define(table.get()), file, kept.tally());
                }
            }
        }
        return changes.findings();
    }

    @Override
    public void check(TableDefinition table) {
        unchecked(Slice.whole(table), Rejects.STOP).close();
    }

    @Override
    public RecordReader read(Slice slice) {
        return read(slice, Rejects.STOP);
    }

    @Override
    public RecordReader read(Slice slice, Rejects rejects) {
        return RangedReader.of(new CheckedReader(unchecked(slice, rejects), rejects), slice);
    }

    private RecordReader unchecked(Slice slice, Rejects rejects) {
        TableDefinition table = define(slice.table());
        List<String> wanted = files.get(slice.table());
        if (slice.piece().file() > 0) {
            wanted = List.of(wanted.get(slice.piece().file() - 1));
        }
        List<Supplier<RecordReader>> readers = new ArrayList<>();
        wanted.forEach(file -> readers.add(() -> reader(file, table, slice.columns(), rejects)));
        return ChainedReader.of(readers);
    }

    private RecordReader reader(String file, TableDefinition table, List<String> columns, Rejects rejects) {
        return format.format().read(new BagSource(bag, file), table, columns, format.settings(), rejects);
    }

    @Override
    public void close() {
        bundled.ifPresent(BundledSet::close);
    }
}
