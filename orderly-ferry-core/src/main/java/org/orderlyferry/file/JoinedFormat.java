package org.orderlyferry.file;

import java.io.OutputStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Setting;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.ChainedReader;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Reads several files of one format as if their records stood in one, each file a piece or more of it. */
final class JoinedFormat implements FileFormat {

    private final FileFormat format;
    private final JoinedFiles files;

    JoinedFormat(FileFormat format, JoinedFiles files) {
        this.format = format;
        this.files = files;
    }

    @Override
    public String name() {
        return format.name();
    }

    @Override
    public List<String> endings() {
        return format.endings();
    }

    @Override
    public boolean looksLike(byte[] head) {
        return format.looksLike(head);
    }

    @Override
    public Keeps keeps() {
        return format.keeps();
    }

    @Override
    public List<Setting> settings() {
        return format.settings();
    }

    @Override
    public boolean isLike(FileFormat other) {
        return format.isLike(other);
    }

    /** Lists that are taken apart refer to the numbers that records have in their own file. */
    @Override
    public void check(FileSettings settings) {
        format.check(settings);
        if (settings.flag("apart", false)) {
            throw new UsageException("the lists of " + files.shown()
                    + " can't be taken apart, since it is several files; name one of them alone");
        }
    }

    @Override
    public List<TableName> tablesTold(FileSource file, FileSettings settings) {
        return files.parts(file).stream()
                .flatMap(part -> format.tablesTold(part, settings).stream())
                .distinct()
                .toList();
    }

    @Override
    public List<Outline> outline(FileSource file, FileSettings settings) {
        Map<TableName, Outline> tables = new LinkedHashMap<>();
        for (FileSource part : files.parts(file)) {
            List<Outline> own = format.outline(part, settings);
            if (tables.isEmpty()) {
                own.forEach(o -> tables.put(o.table().name(), o));
                continue;
            }
            Set<TableName> missing = new LinkedHashSet<>(tables.keySet());
            for (Outline outline : own) {
                TableName table = outline.table().name();
                if (!missing.remove(table)) {
                    throw odd(part, table, "the table " + table + " isn't in the files before it");
                }
                tables.put(table, both(tables.get(table), outline, part));
            }
            if (!missing.isEmpty()) {
                throw odd(part, missing.iterator().next(), "has no such table, which the files before it have");
            }
        }
        return List.copyOf(tables.values());
    }

    private static MalformedFileException odd(FileSource part, TableName table, String what) {
        return new MalformedFileException(new Origin(table.toString(), part.shown(), 1, true), what);
    }

    private static Outline both(Outline one, Outline other, FileSource part) {
        TableDefinition before = one.table();
        TableDefinition table = other.table();
        List<Finding> findings = new ArrayList<>(one.findings());
        other.findings().stream().filter(f -> !findings.contains(f)).forEach(findings::add);
        List<LeftBehind> left = new ArrayList<>(one.leftBehind());
        other.leftBehind().stream().filter(l -> !left.contains(l)).forEach(left::add);
        if (one.source() == Outline.Source.KINDS && other.source() == Outline.Source.KINDS) {
            return new Outline(all(before, table), one.source(), findings, left);
        }
        Set<String> missing = new LinkedHashSet<>(before.columnNames());
        table.columnNames().forEach(missing::remove);
        Set<String> more = new LinkedHashSet<>(table.columnNames());
        before.columnNames().forEach(more::remove);
        if (!missing.isEmpty() || !more.isEmpty()) {
            throw odd(
                    part,
                    table.name(),
                    "its columns aren't those of the files before it"
                            + (missing.isEmpty() ? "" : "; missing: " + Listed.of(missing))
                            + (more.isEmpty() ? "" : "; not in those: " + Listed.of(more)));
        }
        for (ColumnDefinition column : before.columns()) {
            LogicalType type = table.column(column.name()).orElseThrow().type();
            if (!type.equals(column.type())) {
                throw odd(
                        part,
                        table.name(),
                        "the column " + column.name() + " is " + type + ", and " + column.type()
                                + " in the files before it; definitions can be given for all of them");
            }
        }
        return new Outline(before, one.source(), findings, left);
    }

    /** Fields that only some files have are null in the others' records; those of several kinds are texts. */
    private static TableDefinition all(TableDefinition one, TableDefinition other) {
        Map<String, LogicalType> types = new LinkedHashMap<>();
        one.columns().forEach(c -> types.put(c.name(), c.type()));
        other.columns().forEach(c -> types.merge(c.name(), c.type(), JoinedFormat::both));
        TableDefinition.Builder table = TableDefinition.named(one.name());
        types.forEach(table::column);
        return table.build();
    }

    private static LogicalType both(LogicalType one, LogicalType other) {
        if (one.equals(other)) {
            return one;
        }
        return one.name() == TypeName.JSON || other.name() == TypeName.JSON ? LogicalType.JSON : LogicalType.CLOB;
    }

    @Override
    public RecordReader read(
            FileSource file, TableDefinition table, List<String> columns, FileSettings settings, Rejects rejects) {
        List<Supplier<RecordReader>> readers = new ArrayList<>();
        files.parts(file).forEach(p -> readers.add(() -> format.read(p, table, columns, settings, rejects)));
        return ChainedReader.of(readers);
    }

    @Override
    public List<FilePiece> cut(FileSource file, FileSettings settings, long bytes) {
        List<FilePiece> pieces = new ArrayList<>();
        List<FileSource> parts = files.parts(file);
        for (int i = 0; i < parts.size(); i++) {
            int number = i + 1;
            if (parts.get(i).bytes() <= bytes) {
                pieces.add(FilePiece.ofFile(number));
            } else {
                format.cut(parts.get(i), settings, bytes).forEach(p -> pieces.add(p.in(number)));
            }
        }
        return pieces;
    }

    @Override
    public RecordReader read(
            FileSource file,
            FilePiece piece,
            TableDefinition table,
            List<String> columns,
            FileSettings settings,
            Rejects rejects) {
        return piece.file() == 0
                ? read(file, table, columns, settings, rejects)
                : format.read(files.parts(file).get(piece.file() - 1), piece.in(0), table, columns, settings, rejects);
    }

    @Override
    public TablesWriter write(OutputStream out, String shown, List<TableDefinition> tables, FileSettings settings) {
        throw new UnsupportedOperationException("several files are only read as one");
    }

    @Override
    public boolean holdsSeveralTables() {
        return format.holdsSeveralTables();
    }

    @Override
    public FileSettings complete(FileSource file, FileSettings settings) {
        return format.complete(files.parts(file).get(0), settings);
    }

    @Override
    public List<List<String>> headings(FileSource file, FileSettings settings) {
        return format.headings(files.parts(file).get(0), settings);
    }

    @Override
    public boolean isDescribedBeside() {
        return format.isDescribedBeside();
    }

    @Override
    public List<ValueStyle> toldStyles(FileSettings settings) {
        return format.toldStyles(settings);
    }

    @Override
    public Map<String, ValueStyle> styles(TableDefinition table, FileSettings settings) {
        return format.styles(table, settings);
    }
}
