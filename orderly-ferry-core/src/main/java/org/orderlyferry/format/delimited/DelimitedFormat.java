package org.orderlyferry.format.delimited;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.format.ColumnMatch;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Format;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.PieceOfFile;
import org.orderlyferry.format.Setting;
import org.orderlyferry.format.SingleTableWriter;
import org.orderlyferry.format.StyledReader;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.CsvFormat;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.FreeNames;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Rejects;

/** Text with delimiters, or with columns of fixed widths, of any dialect. */
public final class DelimitedFormat implements FileFormat {

    @Override
    public String name() {
        return "delimited text";
    }

    @Override
    public List<String> endings() {
        return List.of("csv", "tsv", "tab", "txt", "psv", "dat");
    }

    /** No bytes make sure that a text is delimited, but some that it is no text. */
    @Override
    public boolean looksLike(byte[] head) {
        return false;
    }

    @Override
    public Keeps keeps() {
        return new Keeps(
                "a CSVW description beside the file",
                "null is nothing at all and empty text is \"\", or null is a word of its own",
                "every value as its value text; binary values in base64; or as the settings say",
                List.of(
                        "fixed widths: text that is longer than its column, has blanks at its ends or line ends, and"
                                + " empty text, are refused",
                        "an encoding other than Unicode's: characters that it doesn't have are refused"));
    }

    @Override
    public List<Setting> settings() {
        return DelimitedDialect.SETTINGS;
    }

    @Override
    public void check(FileSettings settings) {
        FileFormat.super.check(settings);
        DelimitedDialect.of(settings);
        DelimitedDialect.styles(settings);
    }

    @Override
    public List<Outline> outline(FileSource file, FileSettings settings) {
        DelimitedDialect dialect = dialect(file, settings);
        List<Finding> findings = new ArrayList<>();
        TableName name = TableName.of(file.baseName());
        TableDefinition.Builder table = TableDefinition.named(name);
        for (String column : names(file, dialect, name, Set.of(), findings)) {
            table.column(column, LogicalType.CLOB);
        }
        return List.of(new Outline(table.build(), Outline.Source.NAMES, findings));
    }

    /** Settings as a plain dialect, which CSVW can describe and any program read; empty where they are no such. */
    public static Optional<CsvDialect> plain(FileSettings settings) {
        boolean styled = DelimitedDialect.styles(settings).stream().anyMatch(s -> !s.equals(ValueStyle.PLAIN));
        return styled ? Optional.empty() : DelimitedDialect.of(settings).plain();
    }

    @Override
    public FileSettings complete(FileSource file, FileSettings settings) {
        return Sniffer.complete(file, settings);
    }

    private static DelimitedDialect dialect(FileSource file, FileSettings settings) {
        return DelimitedDialect.of(Sniffer.complete(file, settings));
    }

    /**
     * The names of a file's columns, each another one.
     *
     * @param defined what they are called where that is known: a name may be of blanks alone
     */
    private static List<String> names(
            FileSource file, DelimitedDialect dialect, TableName table, Set<String> defined, List<Finding> findings) {
        List<List<String>> headings = headings(file, dialect);
        List<String> names = new ArrayList<>();
        FreeNames free = new FreeNames();
        for (int i = 0; i < headings.size(); i++) {
            List<String> parts = headings.get(i);
            String heading = parts.size() == 1
                    ? parts.get(0)
                    : parts.stream().filter(p -> !p.isBlank()).collect(Collectors.joining(" "));
            boolean unnamed = heading.isBlank() && !defined.contains(heading);
            String base = unnamed ? "column " + (i + 1) : heading;
            String name = free.give(base, number -> base + " (" + number + ")");
            if (!name.equals(heading) && dialect.headerRows() > 0) {
                findings.add(new Finding(
                        FindingCode.NAME_CHANGED,
                        table,
                        name,
                        heading.isBlank()
                                ? "has no heading in the file"
                                : "the heading " + heading + " stands there more than once"));
            }
            names.add(name);
        }
        return names;
    }

    /** The headings of each column; where there are none, as many empty texts as the first record has values. */
    private static List<List<String>> headings(FileSource file, DelimitedDialect dialect) {
        Optional<CsvDialect> plain = dialect.plain();
        if (plain.isPresent()) {
            return new CsvFormat(plain.get())
                    .header(open(file), file.shown()).stream()
                            .map(h -> dialect.headerRows() == 0 ? List.of("") : List.of(h))
                            .toList();
        }
        List<List<String>> headings = new ArrayList<>();
        try (DelimitedScanner scanner = new DelimitedScanner(open(file), file.shown(), "", dialect)) {
            for (int row = 0; row < Math.max(1, dialect.headerRows()); row++) {
                DelimitedScanner.Scanned scanned = scanner.next();
                if (scanned == null) {
                    throw new MalformedFileException(scanner.origin(1), "the file is empty, without even a header");
                }
                if (scanned.fault() != null && dialect.headerRows() > 0) {
                    throw new MalformedFileException(scanner.origin(scanned.line()), scanned.fault());
                }
                for (int i = 0; i < scanned.fields().size(); i++) {
                    if (i == headings.size()) {
                        headings.add(new ArrayList<>());
                    }
                    headings.get(i)
                            .add(
                                    dialect.headerRows() == 0
                                            ? ""
                                            : scanned.fields().get(i).text());
                }
            }
        }
        return headings;
    }

    @Override
    public List<List<String>> headings(FileSource file, FileSettings settings) {
        DelimitedDialect dialect = dialect(file, settings);
        return dialect.headerRows() == 0 ? List.of() : headings(file, dialect);
    }

    private static InputStream open(FileSource file) {
        try {
            return file.open();
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
    }

    @Override
    public RecordReader read(
            FileSource file, TableDefinition table, List<String> columns, FileSettings settings, Rejects rejects) {
        FileSettings known = Sniffer.complete(file, settings);
        DelimitedDialect dialect = DelimitedDialect.of(known);
        return StyledReader.of(raw(file, file, table, columns, dialect, rejects), styles(table, known), rejects);
    }

    @Override
    public List<ValueStyle> toldStyles(FileSettings settings) {
        return DelimitedDialect.styles(settings);
    }

    @Override
    public Map<String, ValueStyle> styles(TableDefinition table, FileSettings settings) {
        List<ValueStyle> styles = DelimitedDialect.styles(settings);
        Map<String, ValueStyle> byColumn = new LinkedHashMap<>();
        for (ColumnDefinition column : table.columns()) {
            ValueStyle.changing(column.type(), styles).ifPresent(s -> byColumn.put(column.name(), s));
        }
        return byColumn;
    }

    /** Plain dialects in UTF-8, which are read by bytes, on the disk; a file that has a fault is read in one piece up to it. */
    @Override
    public List<FilePiece> cut(FileSource file, FileSettings settings, long bytes) {
        DelimitedDialect dialect = dialect(file, settings);
        Optional<CsvDialect> plain = dialect.plain().filter(d -> d.encoding().equals(StandardCharsets.UTF_8));
        if (plain.isEmpty() || file.seekable().isEmpty() || dialect.headerRows() > 0 && !dialect.named()) {
            return List.of(FilePiece.ALL);
        }
        try {
            return new CsvFormat(plain.get()).cut(open(file), file.shown(), bytes);
        } catch (MalformedFileException e) {
            return List.of(FilePiece.ALL);
        }
    }

    @Override
    public RecordReader readPiece(
            FileSource file,
            FilePiece piece,
            TableDefinition table,
            List<String> columns,
            FileSettings settings,
            Rejects rejects) {
        FileSettings known = Sniffer.complete(file, settings);
        DelimitedDialect dialect = DelimitedDialect.of(known);
        FileSource records = new PieceOfFile(file, piece);
        RecordReader raw = piece.from() == 0
                ? raw(file, records, table, columns, dialect, rejects)
                : new CsvFormat(dialect.plain().orElseThrow())
                        .reader(
                                open(records),
                                file.shown(),
                                piece.line(),
                                columnNames(file, table, dialect),
                                table,
                                columns,
                                rejects);
        return StyledReader.of(raw, styles(table, known), rejects);
    }

    /** What a file's columns are called, in its order. */
    private static List<String> columnNames(FileSource file, TableDefinition table, DelimitedDialect dialect) {
        if (dialect.headerRows() == 0 || !dialect.named()) {
            return table.columnNames();
        }
        List<String> names = names(file, dialect, table.name(), Set.copyOf(table.columnNames()), new ArrayList<>());
        ColumnMatch.check(names, table.columnNames(), new Origin("", file.shown(), 1, true));
        return names;
    }

    /**
     * Reads records as they stand.
     *
     * @param file tells the names of columns
     * @param records has the records: the file, or its beginning
     */
    private static RecordReader raw(
            FileSource file,
            FileSource records,
            TableDefinition table,
            List<String> columns,
            DelimitedDialect dialect,
            Rejects rejects) {
        Optional<CsvDialect> plain = dialect.plain();
        boolean headed = dialect.headerRows() > 0 && dialect.named();
        List<String> names = columnNames(file, table, dialect);
        if (plain.isPresent() && (!headed || isAsNamed(file, plain.get(), names))) {
            return new CsvFormat(plain.get()).reader(open(records), file.shown(), table, columns, rejects);
        }
        DelimitedScanner scanner =
                new DelimitedScanner(open(records), file.shown(), table.name().toString(), dialect);
        for (int row = 0; row < dialect.headerRows(); row++) {
            scanner.next();
        }
        return new DelimitedReader(scanner, file.shown(), table.withColumns(columns), names, dialect.nulls(), rejects);
    }

    /** Whether the header has just these names, so that columns can be matched by them. */
    private static boolean isAsNamed(FileSource file, CsvDialect dialect, List<String> names) {
        return new CsvFormat(dialect).header(open(file), file.shown()).equals(names);
    }

    @Override
    public TablesWriter write(OutputStream out, String shown, List<TableDefinition> tables, FileSettings settings) {
        DelimitedDialect dialect = DelimitedDialect.of(settings);
        if (dialect.headerRows() > 1 || dialect.skipColumns() + dialect.skipRows() + dialect.skipLastRows() > 0) {
            throw new UsageException(
                    "headerRowCount, skipRows, skipColumns and skipLastRows are for reading; nothing is written so");
        }
        return new SingleTableWriter(format(settings), out, shown, tables, false);
    }

    /** The way to write that settings describe. */
    private Format format(FileSettings settings) {
        DelimitedDialect dialect = DelimitedDialect.of(settings);
        List<ValueStyle> styles = DelimitedDialect.styles(settings);
        return new Format() {
            @Override
            public String name() {
                return DelimitedFormat.this.name();
            }

            @Override
            public RecordWriter writer(OutputStream out, TableDefinition table) {
                boolean styled = table.columns().stream()
                        .anyMatch(c -> ValueStyle.changing(c.type(), styles).isPresent());
                if (!dialect.widths().isEmpty()
                        && dialect.widths().size() != table.columns().size()) {
                    throw new UsageException("table " + table.name() + " has "
                            + table.columns().size() + " columns, and there are "
                            + dialect.widths().size() + " widths");
                }
                return dialect.plain().isPresent() && !styled
                        ? new CsvFormat(dialect.plain().get()).writer(out, table)
                        : new DelimitedWriter(out, dialect, styles, table);
            }
        };
    }
}
