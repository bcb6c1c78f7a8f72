package org.orderlyferry.file;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.TreeMap;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.StyledReader;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.RangedReader;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.profile.Proposal;
import org.orderlyferry.profile.TableProfile;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.fit.CheckedReader;

/**
 * A file as a place, or several of one table. Its definitions are those given, or that stand beside it as a CSVW
 * description, or that the file itself has; where there are none, they are proposed from all of its values.
 */
final class FilePlace implements FileTables {

    private final KeptFile file;
    private final FileFormat format;
    private final FileSettings settings;
    private final Rejects rejects;
    private final Description description;
    private final FileRecords records;
    private final FileContents contents;

    private final List<String> empty;

    FilePlace(FileSource source, FileFormat format, OpenOptions options) {
        this(source, format, options, List.of());
    }

    /**
     * Opens a file, or several as one.
     *
     * @param empty files of the same table that have nothing in them
     */
    FilePlace(FileSource source, FileFormat format, OpenOptions options, List<String> empty) {
        this.empty = List.copyOf(empty);
        Optional<FileSource> schema = Description.schema(options.definitions());
        this.file = new KeptFile(
                schema.isPresent()
                        ? new GivenSchema(
                                source, schema.get(), schema.get().name().endsWith(".xsd") ? ".xsd" : ".schema.json")
                        : source);
        this.format = format;
        this.rejects = options.rejects();
        this.description =
                schema.isPresent() ? Description.none(source) : Description.of(source, options.definitions());
        FileSettings told = options.files().or(description.settings());
        format.check(told);
        this.records = new FileRecords(file, format);
        try {
            this.settings = HeadingMatch.of(this.file, format, told, description);
            this.contents = new FileContents(records, settings, options.proposing(), description);
        } catch (RuntimeException | Error e) {
            file.close();
            throw e;
        }
        if (!isOneOfSeveral()) {
            // a folder may have thousands of files of one table
            file.close();
        }
    }

    @Override
    public String address() {
        return file.shown();
    }

    @Override
    public String system() {
        return format.name();
    }

    @Override
    public String form() {
        FileSettings found = contents.form();
        StringBuilder form = new StringBuilder();
        found.text("delimiter").filter(d -> !d.equals(",")).ifPresent(d -> form.append(" with '")
                .append(d.equals("\t") ? "\\t" : d)
                .append("' between values"));
        found.text("encoding").filter(e -> !e.equalsIgnoreCase("UTF-8")).ifPresent(e -> form.append(" in ")
                .append(e));
        if (file.files() > 1) {
            form.append(" in ").append(file.files()).append(" files");
        }
        return form.toString().strip();
    }

    @Override
    public List<TableName> tables() {
        return contents.names();
    }

    @Override
    public TableDefinition define(TableName name) {
        return contents.define(name);
    }

    @Override
    public boolean isProposed(TableName name) {
        return contents.isProposed(name);
    }

    @Override
    public Proposal propose(TableName name) {
        return contents.propose(name);
    }

    @Override
    public TableProfile profile(TableName name) {
        return contents.profile(name);
    }

    @Override
    public void writeDefinitions(TableName name, Path to) {
        Map<String, ValueStyle> styles = new LinkedHashMap<>(format.styles(define(name), settings));
        styles.putAll(contents.styles(name));
        FileSettings complete = format.complete(file, settings);
        byte[] content = new DescriptionWriter(format, complete, t -> styles).write(file.name(), List.of(define(name)));
        try {
            NewFile.whole(to, content);
        } catch (IOException e) {
            throw new PlaceException(to.toString(), "can't be written: " + e.getMessage(), e);
        }
    }

    @Override
    public long count(TableName name) {
        return count(name, Rejects.UNHEARD);
    }

    @Override
    public long count(TableName name, Rejects hears) {
        long rows = 0;
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = raw(name, hears)) {
            while (reader.read(batch)) {
                rows += batch.rows();
            }
        }
        return rows;
    }

    /** From the first records' size and the file's: reading all of it to plan would take as long as the work. */
    @Override
    public long estimate(TableName name) {
        Optional<Long> seen = contents.seenRows(name);
        if (seen.isPresent()) {
            return seen.get();
        }
        if (isOneOfSeveral() || file.bytes() < 0) {
            return count(name);
        }
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = raw(name, Rejects.UNHEARD)) {
            if (!reader.read(batch)) {
                return 0;
            }
            long size = batch.valueBytes() + (long) batch.rows() * batch.columns();
            return batch.isFull()
                    ? Math.max(batch.rows(), file.bytes() * batch.rows() / Math.max(1, size))
                    : batch.rows();
        }
    }

    @Override
    public OptionalLong bytes(TableName name) {
        return file.bytes() < 0 || isOneOfSeveral() ? OptionalLong.empty() : OptionalLong.of(file.bytes());
    }

    /** What each of several tables takes of a file, nobody knows. */
    private boolean isOneOfSeveral() {
        return contents.names().size() > 1;
    }

    /** Into pieces of bytes that have about as many records each as a slice is to have. */
    @Override
    public List<Slice> cut(TableDefinition table, long rows, Cut cut) {
        Slice whole = Slice.whole(table);
        if (rows <= cut.rows() || file.bytes() < 0 || isOneOfSeveral()) {
            return List.of(whole);
        }
        long pieces = (rows + cut.rows() - 1) / cut.rows();
        return format.cut(file, settings, Math.max(1, file.bytes() / pieces)).stream()
                .map(whole::of)
                .toList();
    }

    /** Several may read the file at once, once it is known what it holds. */
    @Override
    public Companions companions(int count) {
        return new Companions(Collections.nCopies(count, (Place) this), List.of());
    }

    /** A checksum of its bytes, and how they are read. */
    @Override
    public Optional<String> state() {
        try {
            Optional<String> state = file.state()
                    .map(bytes -> bytes + " " + new TreeMap<>(settings.values()) + " " + description.asRead());
            for (String named : settings.namedFiles()) {
                Optional<String> other = DiskFile.of(WrittenPath.read(named)).state();
                state = state.flatMap(one -> other.map(two -> one + " " + two));
            }
            return state;
        } catch (IOException e) {
            throw new PlaceException(address(), "can't be read: " + e.getMessage(), e);
        }
    }

    @Override
    public Optional<String> besideDescription() {
        return description.beside();
    }

    @Override
    public List<Finding> notices() {
        List<Finding> notices = new ArrayList<>();
        description.beside().ifPresent(name -> description
                .tables()
                .forEach(t -> notices.add(Finding.of(
                        FindingCode.DEFINITION_BESIDE,
                        t.name(),
                        "its definitions are those of " + name + ", which lies beside it"))));
        notices.addAll(contents.findings());
        empty.forEach(f -> notices.add(Finding.ofAll(
                FindingCode.FORM_FOUND, f + " has nothing in it, not even a header; it counts as no file")));
        return notices;
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return contents.leftBehind();
    }

    @Override
    public void check(TableDefinition table) {
        contents.mustBeReadable();
        records.open(table, settings, rejects).close();
    }

    @Override
    public RecordReader read(Slice slice) {
        return read(slice, rejects);
    }

    @Override
    public RecordReader read(Slice slice, Rejects hears) {
        contents.mustBeReadable();
        TableDefinition table = define(slice.table());
        Map<String, ValueStyle> styles = new LinkedHashMap<>(contents.styles(slice.table()));
        // what settings tell, the format has undone already
        styles.keySet().removeAll(format.styles(table, settings).keySet());
        RecordReader raw = RuledReader.of(
                new AheadReader(records.open(table, slice.columns(), slice.piece(), settings, hears)),
                contents.rules(slice.table()),
                settings.words("null", ""),
                hears);
        return RangedReader.of(new CheckedReader(StyledReader.of(raw, styles, hears), hears), slice);
    }

    /** A table's records as the file has them. */
    RecordReader raw(TableName name) {
        return raw(name, rejects);
    }

    /** Records that aren't whole are told when they are moved, and not when they are counted. */
    private RecordReader raw(TableName name, Rejects hears) {
        contents.mustBeReadable();
        return records.open(contents.asItStands(name), settings, hears);
    }

    @Override
    public Rejects rejects() {
        return rejects;
    }

    @Override
    public void close() {
        file.close();
    }
}
