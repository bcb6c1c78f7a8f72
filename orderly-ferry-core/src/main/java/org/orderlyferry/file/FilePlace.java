package org.orderlyferry.file;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.Supplier;
import org.orderlyferry.csvw.CellRule;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Proposing;
import org.orderlyferry.format.StyledReader;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.RangedReader;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.profile.Proposal;
import org.orderlyferry.profile.TableProfile;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.fit.CheckedReader;

/**
 * A file as a place. Its definitions are those given, or that stand beside it as a CSVW description, or that the file
 * itself has; where there are none, they are proposed from all of its values.
 */
final class FilePlace implements FileTables {

    private final FileSource file;
    private final FileFormat format;
    private final FileSettings settings;
    private final Rejects rejects;
    private final Proposing proposing;
    /** How the file is looked at: as the settings say, or in another encoding where they can't be right. */
    private FileSettings seen;
    /** What shows that the settings' encoding can't be right: the values may be looked at, but not moved. */
    private Optional<MalformedFileException> misread = Optional.empty();

    private final Map<TableName, Known> tables = new LinkedHashMap<>();
    private final Map<TableName, Map<String, CellRule>> rules = new LinkedHashMap<>();
    private final Description description;

    /** What is known of a table; a proposal is made when it is first asked for. */
    private static final class Known {
        private final Outline outline;
        private final Map<String, ValueStyle> styles;
        private Proposal proposal;
        private TableProfile profile;

        Known(Outline outline, Map<String, ValueStyle> styles) {
            this.outline = outline;
            this.styles = styles;
        }
    }

    FilePlace(FileSource file, FileFormat format, OpenOptions options) {
        Optional<FileSource> schema = Description.schema(options.definitions());
        this.file = schema.isPresent()
                ? new GivenSchema(file, schema.get(), schema.get().name().endsWith(".xsd") ? ".xsd" : ".schema.json")
                : file;
        this.format = format;
        this.rejects = options.rejects();
        this.proposing = options.proposing();
        this.description = schema.isPresent() ? Description.none(file) : Description.of(file, options.definitions());
        FileSettings told = options.files().or(description.settings());
        format.check(told);
        this.settings = HeadingMatch.of(this.file, format, told, description);
        this.seen = settings;
        if (description.isThere()) {
            for (TableDefinition table : description.tables()) {
                put(new Outline(table, Outline.Source.DEFINITIONS), description.styles(table.name()));
                rules.put(table.name(), description.rules(table.name()));
            }
        } else {
            looking(() -> format.outline(this.file, seen)).forEach(outline -> put(outline, Map.of()));
        }
    }

    /** Looks at the file, and once more in another encoding if it can't be in the one that was taken. */
    private <T> T looking(Supplier<T> look) {
        try {
            return look.get();
        } catch (StackOverflowError e) {
            throw new UsageException("the schema of " + file.shown() + " refers to itself without end", e);
        } catch (OutOfMemoryError e) {
            throw LargeRecords.tooLarge(new Origin("", file.shown(), 0, true));
        } catch (MalformedFileException e) {
            if (!e.isOfEncoding()) {
                throw e;
            }
            misread = misread.isEmpty() ? Optional.of(e) : misread;
            seen = StandIns.next(seen)
                    .map(encoding -> HeadingMatch.of(file, format, settings.with("encoding", encoding), description))
                    .orElseThrow(() -> e);
            return looking(look);
        } catch (FerryException e) {
            throw e;
        } catch (RuntimeException e) {
            throw LargeRecords.broken("", file.shown(), 0, e);
        }
    }

    /** What is moved has to be right. */
    private void mustBeReadable() {
        misread.ifPresent(e -> {
            throw e;
        });
    }

    private void put(Outline outline, Map<String, ValueStyle> styles) {
        if (tables.put(outline.table().name(), new Known(outline, styles)) != null) {
            throw new UsageException(
                    file.shown() + " has two tables " + outline.table().name());
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
        FileSettings found = format.complete(file, seen);
        StringBuilder form = new StringBuilder();
        found.text("delimiter").filter(d -> !d.equals(",")).ifPresent(d -> form.append(" with '")
                .append(d.equals("\t") ? "\\t" : d)
                .append("' between values"));
        found.text("encoding").filter(e -> !e.equalsIgnoreCase("UTF-8")).ifPresent(e -> form.append(" in ")
                .append(e));
        return form.toString().strip();
    }

    @Override
    public List<TableName> tables() {
        return tables.keySet().stream().sorted().toList();
    }

    private Known known(TableName name) {
        Known known = tables.get(name);
        if (known == null) {
            throw new UsageException("there is no table " + name + " in " + file.shown() + "; it has "
                    + String.join(
                            ", ",
                            tables.keySet().stream().map(TableName::toString).toList()));
        }
        return known;
    }

    @Override
    public TableDefinition define(TableName name) {
        Known known = known(name);
        if (known.outline.source() == Outline.Source.DEFINITIONS) {
            return known.outline.table();
        }
        TableDefinition proposed = proposal(known).table();
        mustBeReadable();
        return proposed;
    }

    @Override
    public boolean isProposed(TableName name) {
        return known(name).outline.source() != Outline.Source.DEFINITIONS;
    }

    @Override
    public Proposal propose(TableName name) {
        return proposal(known(name));
    }

    @Override
    public TableProfile profile(TableName name) {
        return profile(known(name));
    }

    private TableProfile profile(Known known) {
        if (known.profile == null) {
            known.profile = looking(() -> profiled(known));
        }
        return known.profile;
    }

    private TableProfile profiled(Known known) {
        List<Finding> broken = new ArrayList<>();
        TableDefinition table = known.outline.table();
        misread.ifPresent(e -> broken.add(Finding.of(
                FindingCode.RECORD_ODD,
                table.name(),
                "line " + e.origin().line() + ": " + e.what() + "; it is shown as if in "
                        + seen.text("encoding").orElseThrow())));
        Oddities odd = new Oddities(table.name(), broken);
        return TableProfile.of(
                        () -> open(table, table.columnNames(), seen, odd),
                        () -> open(table, table.columnNames(), seen, Rejects.UNHEARD),
                        known.outline.findings(),
                        broken)
                .withRejected(odd.count());
    }

    private Proposal proposal(Known known) {
        if (known.proposal == null) {
            known.proposal =
                    Proposal.of(profile(known), known.outline.source(), format.toldStyles(settings), decided());
        }
        return known.proposal;
    }

    /** A key that is told is one table's. */
    private Proposing decided() {
        if (proposing.key().isPresent() && tables.size() > 1) {
            throw new UsageException(
                    file.shown() + " has several tables, and a key was told for one; the definitions of"
                            + " each can be written down, changed and given back");
        }
        return proposing;
    }

    @Override
    public void writeDefinitions(TableName name, Path to) {
        Known known = known(name);
        Map<String, ValueStyle> styles = new LinkedHashMap<>(format.styles(define(name), settings));
        styles.putAll(isProposed(name) ? proposal(known).styles() : known.styles);
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
        long rows = 0;
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = counted(name)) {
            while (reader.read(batch)) {
                rows += batch.rows();
            }
        }
        return rows;
    }

    /** Records that aren't whole are told when they are moved, and not when they are counted. */
    private RecordReader counted(TableName name) {
        TableDefinition table = known(name).outline.table();
        mustBeReadable();
        return open(table, table.columnNames(), settings, Rejects.UNHEARD);
    }

    /** From the first records' size and the file's: reading all of it to plan would take as long as the work. */
    @Override
    public long estimate(TableName name) {
        if (known(name).profile != null) {
            return known(name).profile.rows();
        }
        if (tables.size() > 1 || file.bytes() < 0) {
            return count(name);
        }
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = counted(name)) {
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
        // what each of several tables takes of a file, nobody knows
        return file.bytes() < 0 || tables.size() > 1 ? OptionalLong.empty() : OptionalLong.of(file.bytes());
    }

    @Override
    public Optional<String> besideDescription() {
        return description.beside();
    }

    @Override
    public List<Finding> notices() {
        return description
                .beside()
                .map(name -> description.tables().stream()
                        .map(t -> Finding.of(
                                FindingCode.DEFINITION_BESIDE,
                                t.name(),
                                "its definitions are those of " + name + ", which lies beside it"))
                        .toList())
                .orElse(List.of());
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return tables.values().stream()
                .flatMap(k -> k.outline.leftBehind().stream())
                .toList();
    }

    @Override
    public void check(TableDefinition table) {
        mustBeReadable();
        open(table, table.columnNames(), settings, rejects).close();
    }

    @Override
    public RecordReader read(Slice slice) {
        return read(slice, rejects);
    }

    @Override
    public RecordReader read(Slice slice, Rejects hears) {
        Known known = known(slice.table());
        mustBeReadable();
        TableDefinition table = define(slice.table());
        Map<String, ValueStyle> styles =
                new LinkedHashMap<>(isProposed(slice.table()) ? proposal(known).styles() : known.styles);
        // what settings tell, the format has undone already
        styles.keySet().removeAll(format.styles(table, settings).keySet());
        RecordReader raw = RuledReader.of(
                new AheadReader(open(table, slice.columns(), settings, hears)),
                rules.getOrDefault(slice.table(), Map.of()),
                settings.words("null", ""),
                hears);
        return RangedReader.of(new CheckedReader(StyledReader.of(raw, styles, hears), hears), slice);
    }

    /** A table's records as the file has them. */
    RecordReader raw(TableName name) {
        TableDefinition table = known(name).outline.table();
        mustBeReadable();
        return open(table, table.columnNames(), settings, rejects);
    }

    private RecordReader open(TableDefinition table, List<String> columns, FileSettings how, Rejects hears) {
        try {
            return new LargeRecords(format.read(file, table, columns, how, hears), file.shown());
        } catch (FerryException e) {
            throw e;
        } catch (RuntimeException | StackOverflowError e) {
            throw LargeRecords.broken(table.name().toString(), file.shown(), 0, e);
        }
    }

    @Override
    public Rejects rejects() {
        return rejects;
    }

    @Override
    public void close() {
        // nothing is held open between reads
    }
}
