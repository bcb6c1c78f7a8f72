package org.orderlyferry.office.xlsx;

import java.io.OutputStream;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.Row;
import org.dhatim.fastexcel.reader.Sheet;
import org.orderlyferry.format.ColumnMatch;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Setting;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Spreadsheets of Office Open XML. */
public final class XlsxFormat implements FileFormat {

    @Override
    public String name() {
        return "spreadsheet";
    }

    @Override
    public List<String> endings() {
        return List.of("xlsx");
    }

    /** A ZIP file whose first part is one of those that such files begin with. */
    @Override
    public boolean looksLike(byte[] head) {
        if (head.length < 4 || head[0] != 'P' || head[1] != 'K' || head[2] != 3 || head[3] != 4) {
            return false;
        }
        String text = new String(head, java.nio.charset.StandardCharsets.ISO_8859_1);
        return text.contains("[Content_Types].xml") || text.contains("xl/") || text.contains("_rels/");
    }

    @Override
    public boolean holdsSeveralTables() {
        return true;
    }

    @Override
    public Keeps keeps() {
        return new Keeps(
                "a sheet of definitions in the file, and a CSVW description beside it",
                "null is a cell that isn't there, and empty text is one with an empty text",
                "numbers of up to 15 digits, dates from March 1900 on, times to the millisecond and truth values as such;"
                        + " all else as text, which is never a formula; binary values in base64",
                List.of(
                        "a value of more than 32,767 characters is refused",
                        "a spreadsheet program that saves the file again may change numbers and dates as it likes"));
    }

    @Override
    public List<Setting> settings() {
        return List.of(
                new Setting("sheet", "", "Only this sheet when read."),
                new Setting("headingRow", "found", "In which row the headings are, from 1, when read; 0 for none."),
                new Setting(
                        "lastRow", "", "The last row that is read, from 1; what stands below is none of the table's."),
                new Setting(
                        "errors",
                        "reject",
                        "What becomes of a cell such as #N/A: reject, its record, or null, the value alone."),
                new Setting("sheetRows", "1048576", "After how many rows a table goes on in another sheet."));
    }

    @Override
    public void check(FileSettings settings) {
        FileFormat.super.check(settings);
        String errors = settings.text("errors", "reject");
        if (!errors.equals("reject") && !errors.equals("null")) {
            throw new UsageException("the setting errors is reject or null, not " + errors);
        }
        XlsxReader.lastRow(settings);
    }

    @Override
    public List<Outline> outline(FileSource file, FileSettings settings) {
        try (XlsxInput input = new XlsxInput(file)) {
            Map<TableDefinition, List<String>> defined = input.definitions();
            if (!defined.isEmpty() && settings.text("sheet").isEmpty()) {
                return defined.keySet().stream()
                        .map(t -> new Outline(t, Outline.Source.DEFINITIONS))
                        .toList();
            }
            List<Outline> outlines = new ArrayList<>();
            for (String name : input.sheetNames()) {
                if (settings.text("sheet", name).equals(name)) {
                    outline(input, input.sheet(name).orElseThrow(), settings).ifPresent(outlines::add);
                }
            }
            if (outlines.isEmpty()) {
                throw new UsageException(settings.text("sheet")
                        .map(s -> "there is no sheet " + s + " with values in " + file.shown() + "; it has "
                                + String.join(", ", input.sheetNames()))
                        .orElse(file.shown() + " has no sheet with values"));
            }
            return outlines;
        }
    }

    private static Optional<Outline> outline(XlsxInput input, Sheet sheet, FileSettings settings) {
        int headingRow = headingRow(input, sheet, settings);
        int lastRow = XlsxReader.lastRow(settings);
        TableName name = TableName.of(sheet.getName());
        List<Finding> findings = new ArrayList<>();
        List<String> names = null;
        List<Set<Cells.Kind>> kinds = new ArrayList<>();
        try (SheetRows rows = input.rows(sheet)) {
            for (Row row : rows) {
                if (row.getRowNum() == headingRow) {
                    names = names(row, name, findings);
                } else if (row.getRowNum() > headingRow && row.getRowNum() <= lastRow) {
                    for (Cell cell : row) {
                        Cells.Kind kind = Cells.kind(cell);
                        // an error is no value: its record is rejected, and the others say what the column holds
                        if (kind != Cells.Kind.NOTHING && kind != Cells.Kind.ERROR) {
                            while (kinds.size() <= cell.getColumnIndex()) {
                                kinds.add(EnumSet.noneOf(Cells.Kind.class));
                            }
                            kinds.get(cell.getColumnIndex()).add(kind);
                        }
                    }
                }
            }
        }
        int width = Math.max(kinds.size(), names == null ? 0 : names.size());
        if (width == 0) {
            return Optional.empty();
        }
        TableDefinition.Builder table = TableDefinition.named(name);
        for (int i = 0; i < width; i++) {
            String column = names != null && i < names.size() ? names.get(i) : "column " + (i + 1);
            Set<Cells.Kind> found = i < kinds.size() ? kinds.get(i) : Set.of();
            table.column(column, type(found));
            if (found.size() > 1 && type(found).equals(LogicalType.CLOB)) {
                findings.add(new Finding(
                        FindingCode.VALUE_ODD, name, column, "holds cells of several kinds, so it is text"));
            }
        }
        return Optional.of(new Outline(table.build(), Outline.Source.KINDS, findings));
    }

    private static LogicalType type(Set<Cells.Kind> kinds) {
        if (kinds.equals(Set.of(Cells.Kind.NUMBER))) {
            return LogicalType.of(TypeName.DECIMAL);
        }
        if (kinds.equals(Set.of(Cells.Kind.TRUTH))) {
            return LogicalType.BOOLEAN;
        }
        if (kinds.equals(Set.of(Cells.Kind.DAY))) {
            return LogicalType.DATE;
        }
        if (kinds.equals(Set.of(Cells.Kind.TIME))) {
            return LogicalType.of(TypeName.TIME, 3);
        }
        Set<Cells.Kind> moments = EnumSet.of(Cells.Kind.DAY, Cells.Kind.MOMENT);
        return !kinds.isEmpty() && moments.containsAll(kinds)
                ? LogicalType.of(TypeName.TIMESTAMP, 3)
                : LogicalType.CLOB;
    }

    /** The first row with at least two texts and nothing else, or the first with anything at all. */
    private static int headingRow(XlsxInput input, Sheet sheet, FileSettings settings) {
        if (settings.text("headingRow").isPresent()) {
            return settings.count("headingRow", 1);
        }
        int first = 1;
        boolean any = false;
        try (SheetRows rows = input.rows(sheet)) {
            for (Row row : rows) {
                List<Cells.Kind> kinds = row.stream()
                        .map(Cells::kind)
                        .filter(k -> k != Cells.Kind.NOTHING)
                        .toList();
                if (!kinds.isEmpty() && !any) {
                    any = true;
                    first = row.getRowNum();
                }
                if (kinds.size() > 1 && kinds.stream().allMatch(k -> k == Cells.Kind.TEXT)) {
                    return row.getRowNum();
                }
                if (row.getRowNum() > 50) {
                    break;
                }
            }
        }
        return first;
    }

    private static List<String> names(Row row, TableName table, List<Finding> findings) {
        List<String> names = new ArrayList<>();
        Set<String> taken = new HashSet<>();
        for (int i = 0; i < row.getCellCount(); i++) {
            Cell cell = row.getCell(i);
            String heading = Cells.kind(cell) == Cells.Kind.NOTHING
                    ? ""
                    : Cells.text(cell, Cells.kind(cell), LogicalType.CLOB, false);
            String base = heading.isBlank() ? "column " + (i + 1) : heading;
            String name = base;
            for (int number = 2; !taken.add(name); number++) {
                name = base + " (" + number + ")";
            }
            if (!name.equals(base)) {
                findings.add(new Finding(
                        FindingCode.NAME_CHANGED, table, name, "the heading " + base + " stands there more than once"));
            }
            names.add(name);
        }
        return names;
    }

    @Override
    public RecordReader read(
            FileSource file, TableDefinition table, List<String> columns, FileSettings settings, Rejects rejects) {
        XlsxInput input = new XlsxInput(file);
        try {
            List<String> sheets = new ArrayList<>();
            input.definitions().forEach((defined, its) -> {
                if (defined.name().toString().equals(table.name().toString())) {
                    sheets.addAll(its);
                }
            });
            boolean ours = !sheets.isEmpty();
            if (!ours) {
                sheets.add(settings.text("sheet", table.name().toString()));
            }
            List<XlsxReader.SheetPart> parts = new ArrayList<>();
            for (String name : sheets) {
                Sheet sheet = input.sheet(name)
                        .or(() -> sheets.size() == 1 && input.sheetNames().size() == 1
                                ? input.sheet(input.sheetNames().get(0))
                                : Optional.empty())
                        .orElseThrow(() -> new UsageException("there is no sheet " + name + " in " + file.shown()
                                + "; it has " + String.join(", ", input.sheetNames())));
                int headingRow = ours ? 1 : headingRow(input, sheet, settings);
                List<String> names = headingRow == 0 ? table.columnNames() : names(input, sheet, headingRow, table);
                ColumnMatch.check(
                        names,
                        table.columnNames(),
                        new Origin(table.name().toString(), file.shown(), headingRow, true));
                parts.add(new XlsxReader.SheetPart(
                        sheet,
                        headingRow,
                        columns.stream().mapToInt(names::indexOf).toArray()));
            }
            return new XlsxReader(input, file.shown(), table.withColumns(columns), parts, ours, settings, rejects);
        } catch (RuntimeException e) {
            input.close();
            throw e;
        }
    }

    private static List<String> names(XlsxInput input, Sheet sheet, int headingRow, TableDefinition table) {
        List<String> names = new ArrayList<>();
        try (SheetRows rows = input.rows(sheet)) {
            for (Row row : rows) {
                if (row.getRowNum() == headingRow) {
                    names.addAll(names(row, table.name(), new ArrayList<>()));
                    break;
                }
            }
        }
        // a column with values and no heading
        for (int i = names.size(); i < table.columns().size(); i++) {
            names.add("column " + (i + 1));
        }
        return names;
    }

    @Override
    public TablesWriter write(OutputStream out, String shown, List<TableDefinition> tables, FileSettings settings) {
        int rows = settings.count("sheetRows", XlsxWriter.MOST_ROWS);
        if (rows < 2 || rows > XlsxWriter.MOST_ROWS) {
            throw new UsageException("a sheet has from 2 to " + XlsxWriter.MOST_ROWS + " rows");
        }
        return new XlsxWriter(out, shown, rows);
    }
}
