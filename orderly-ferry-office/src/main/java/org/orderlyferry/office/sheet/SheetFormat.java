package org.orderlyferry.office.sheet;

import java.io.OutputStream;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.orderlyferry.format.ColumnMatch;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Setting;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.FreeNames;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** A kind of spreadsheet: each sheet with headings is a table, unless a sheet of definitions says more. */
public abstract class SheetFormat implements FileFormat {

    /** A heading that stands further down isn't looked for. */
    private static final int LAST_HEADING = 50;

    private final int mostRows;

    /**
     * A kind of spreadsheet.
     *
     * @param mostRows rows of a sheet
     */
    protected SheetFormat(int mostRows) {
        this.mostRows = mostRows;
    }

    /** Opens a file. */
    protected abstract SheetInput open(FileSource file);

    /**
     * Begins a file.
     *
     * @param sheetRows after how many rows a table goes on in another sheet
     */
    protected abstract SheetWriter writer(OutputStream out, String shown, int sheetRows);

    @Override
    public boolean holdsSeveralTables() {
        return true;
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
                new Setting(
                        "sheetRows",
                        Integer.toString(mostRows),
                        "After how many rows a table goes on in another sheet."));
    }

    @Override
    public void check(FileSettings settings) {
        FileFormat.super.check(settings);
        String errors = settings.text("errors", "reject");
        if (!errors.equals("reject") && !errors.equals("null")) {
            throw new UsageException("the setting errors is reject or null, not " + errors);
        }
        SheetReader.lastRow(settings);
    }

    @Override
    public List<Outline> outline(FileSource file, FileSettings settings) {
        try (LentInput input = LentInput.of(file, this::open)) {
            DefinitionsSheet defined = settings.text("sheet").isEmpty() ? input.definitions() : DefinitionsSheet.NONE;
            List<Outline> outlines = new ArrayList<>();
            defined.tables()
                    .forEach((table, sheets) -> outlines.add(
                            new Outline(table, Outline.Source.DEFINITIONS, hidden(input, sheets, table.name()))));
            // a person may have put others beside those that are defined
            for (String name : input.sheetNames()) {
                if (settings.text("sheet", name).equals(name) && !defined.isAbout(name)) {
                    outline(input, name, settings).ifPresent(outlines::add);
                }
            }
            mustDiffer(outlines, file);
            if (outlines.isEmpty()) {
                throw new UsageException(settings.text("sheet")
                        .map(s -> "there is no sheet " + s + " with values in " + file.shown() + "; it has "
                                + Listed.of(input.sheetNames()))
                        .orElse(file.shown() + " has no sheet with values"));
            }
            return outlines;
        }
    }

    @Override
    public List<TableName> tablesTold(FileSource file, FileSettings settings) {
        if (settings.text("sheet").isPresent()) {
            return List.of();
        }
        try (LentInput input = LentInput.of(file, this::open)) {
            DefinitionsSheet defined = input.definitions();
            List<TableName> names = new ArrayList<>();
            defined.tables().keySet().forEach(t -> names.add(t.name()));
            input.sheetNames().stream()
                    .filter(s -> !defined.isAbout(s) && hasValues(input, s))
                    .forEach(s -> names.add(TableName.of(s)));
            return names;
        }
    }

    private static boolean hasValues(SheetInput input, String sheet) {
        try (SheetRows rows = input.rows(sheet)) {
            while (rows.hasNext()) {
                if (!SheetReader.isBlank(rows.next())) {
                    return true;
                }
            }
            return false;
        }
    }

    private static List<Finding> hidden(SheetInput input, List<String> sheets, TableName table) {
        return sheets.stream()
                .filter(s -> input.sheetNames().contains(s) && input.isHidden(s))
                .map(s -> Finding.of(
                        FindingCode.FORM_FOUND,
                        table,
                        "its sheet " + s + " is hidden from who opens the file; it is read like the others"))
                .toList();
    }

    private static void mustDiffer(List<Outline> outlines, FileSource file) {
        Set<String> names = new HashSet<>();
        for (Outline outline : outlines) {
            if (!names.add(outline.table().name().toString())) {
                throw new UsageException("two sheets of " + file.shown() + " are a table "
                        + outline.table().name() + ": one by the sheet " + DefinitionsSheet.NAME
                        + ", one by its own name; the setting sheet reads one by itself");
            }
        }
    }

    private static Optional<Outline> outline(SheetInput input, String sheet, FileSettings settings) {
        int headingRow = headingRow(input, sheet, settings);
        int lastRow = SheetReader.lastRow(settings);
        TableName name = TableName.of(sheet);
        List<Finding> findings = new ArrayList<>();
        List<String> names = null;
        List<ColumnKinds> kinds = new ArrayList<>();
        int above = 0;
        SheetMarks marks = new SheetMarks(headingRow, lastRow);
        try (SheetRows rows = input.rows(sheet, marks)) {
            while (rows.hasNext()) {
                SheetRow row = rows.next();
                above += row.number() < headingRow && !SheetReader.isBlank(row) ? 1 : 0;
                if (row.number() == headingRow) {
                    names = names(row, name, Set.of(), findings);
                } else if (row.number() > headingRow && row.number() <= lastRow) {
                    for (int place = 0; place < row.width(); place++) {
                        CellKind kind = row.kind(place);
                        // an error is no value: its record is rejected, and the others say what the column holds
                        if (kind != CellKind.NOTHING && kind != CellKind.ERROR) {
                            while (kinds.size() <= place) {
                                kinds.add(new ColumnKinds());
                            }
                            kinds.get(place).add(kind, row.fraction(place));
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
            ColumnKinds found = i < kinds.size() ? kinds.get(i) : new ColumnKinds();
            table.column(column, found.type());
            if (found.areSeveral() && found.type().equals(LogicalType.CLOB)) {
                findings.add(new Finding(
                        FindingCode.VALUE_ODD, name, column, "holds cells of several kinds, so it is text"));
            }
        }
        if (above > 0 && settings.text("headingRow").isEmpty()) {
            findings.add(Finding.of(
                    FindingCode.FORM_FOUND,
                    name,
                    "its headings were found in row " + headingRow + "; what stands above, in " + above
                            + (above == 1 ? " row" : " rows")
                            + ", is none of its records, unless the setting headingRow tells where they are"));
        }
        findings.addAll(marks.findings(name, width));
        findings.addAll(hidden(input, List.of(sheet), name));
        return Optional.of(new Outline(table.build(), Outline.Source.KINDS, findings));
    }

    /** The first row with at least two texts and nothing else, or the first with anything at all. */
    private static int headingRow(SheetInput input, String sheet, FileSettings settings) {
        if (settings.text("headingRow").isPresent()) {
            return settings.count("headingRow", 1);
        }
        int first = 1;
        boolean any = false;
        try (SheetRows rows = input.rows(sheet)) {
            while (rows.hasNext()) {
                SheetRow row = rows.next();
                List<CellKind> kinds = IntStream.range(0, row.width())
                        .mapToObj(row::kind)
                        .filter(k -> k != CellKind.NOTHING)
                        .toList();
                if (!kinds.isEmpty() && !any) {
                    any = true;
                    first = row.number();
                }
                if (kinds.size() > 1 && kinds.stream().allMatch(k -> k == CellKind.TEXT)) {
                    return row.number();
                }
                if (row.number() > LAST_HEADING) {
                    break;
                }
            }
        }
        return first;
    }

    private static List<String> names(SheetRow row, TableName table, Set<String> defined, List<Finding> findings) {
        List<String> names = new ArrayList<>();
        FreeNames free = new FreeNames();
        for (int i = 0; i < row.width(); i++) {
            String heading =
                    switch (row.kind(i)) {
                        case NOTHING -> "";
                        case ERROR -> row.raw(i);
                        default -> row.text(i, LogicalType.CLOB);
                    };
            // a name may be of blanks alone where definitions say so
            String base = heading.isBlank() && !defined.contains(heading) ? "column " + (i + 1) : heading;
            String name = free.give(base, number -> base + " (" + number + ")");
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
        LentInput input = LentInput.of(file, this::open);
        try {
            List<String> sheets = new ArrayList<>();
            input.definitions().tables().forEach((defined, its) -> {
                if (defined.name().toString().equals(table.name().toString())) {
                    sheets.addAll(its);
                }
            });
            boolean ours = !sheets.isEmpty();
            if (!ours) {
                sheets.add(settings.text("sheet", table.name().toString()));
            }
            List<SheetReader.SheetPart> parts = new ArrayList<>();
            for (String name : sheets) {
                String sheet = sheet(input, name, sheets.size() == 1)
                        .orElseThrow(() -> new UsageException("there is no sheet " + name + " in " + file.shown()
                                + "; it has " + Listed.of(input.sheetNames())));
                int headingRow = ours ? 1 : headingRow(input, sheet, settings);
                List<String> names = headingRow == 0 ? table.columnNames() : names(input, sheet, headingRow, table);
                ColumnMatch.check(
                        names,
                        table.columnNames(),
                        new Origin(table.name().toString(), file.shown(), headingRow, true));
                parts.add(new SheetReader.SheetPart(
                        sheet,
                        headingRow,
                        columns.stream().mapToInt(names::indexOf).toArray()));
            }
            return new SheetReader(input, file.shown(), table.withColumns(columns), parts, ours, settings, rejects);
        } catch (RuntimeException e) {
            input.close();
            throw e;
        }
    }

    /** The sheet of a name; where there is only one in the file, and only one is wanted, that. */
    private static Optional<String> sheet(SheetInput input, String name, boolean onlyOne) {
        List<String> names = input.sheetNames();
        return names.contains(name)
                ? Optional.of(name)
                : onlyOne && names.size() == 1 ? Optional.of(names.get(0)) : Optional.empty();
    }

    private static List<String> names(SheetInput input, String sheet, int headingRow, TableDefinition table) {
        List<String> names = new ArrayList<>();
        try (SheetRows rows = input.rows(sheet)) {
            while (rows.hasNext()) {
                SheetRow row = rows.next();
                if (row.number() == headingRow) {
                    names.addAll(names(row, table.name(), Set.copyOf(table.columnNames()), new ArrayList<>()));
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
        int rows = settings.count("sheetRows", mostRows);
        if (rows < 2 || rows > mostRows) {
            throw new UsageException("a sheet has from 2 to " + mostRows + " rows");
        }
        SheetWriter writer = writer(out, shown, rows);
        try {
            writer.mustHold(tables);
        } catch (UsageException e) {
            writer.close();
            throw e;
        }
        return writer;
    }
}
