package org.orderlyferry.office.xlsx;

import java.time.DateTimeException;
import java.util.Base64;
import java.util.Iterator;
import java.util.List;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.Row;
import org.dhatim.fastexcel.reader.Sheet;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Reads the records of a table's sheets, one sheet after the other. */
final class XlsxReader implements RecordReader {

    private final XlsxInput input;
    private final String shown;
    private final TableDefinition table;
    private final Iterator<SheetPart> sheets;
    private final boolean everyRow;
    private final Rejects rejects;
    private final int lastRow;
    private final boolean errorsAreNull;
    /** Null before the first sheet. */
    private RowsAhead rows;

    private SheetPart part;

    /**
     * A sheet of a table.
     *
     * @param headingRow from 1; 0 where there is none
     * @param places where the wanted columns are in it
     */
    record SheetPart(Sheet sheet, int headingRow, int[] places) {}

    /**
     * A reader.
     *
     * @param everyRow whether a row without values is a record of nulls, rather than none
     */
    XlsxReader(
            XlsxInput input,
            String shown,
            TableDefinition table,
            List<SheetPart> parts,
            boolean everyRow,
            FileSettings settings,
            Rejects rejects) {
        this.input = input;
        this.shown = shown;
        this.table = table;
        this.sheets = parts.iterator();
        this.everyRow = everyRow;
        this.rejects = rejects;
        this.lastRow = lastRow(settings);
        this.errorsAreNull = settings.text("errors", "reject").equals("null");
    }

    /** The row behind which nothing is read: a footer isn't a record. */
    static int lastRow(FileSettings settings) {
        return settings.text("lastRow").isPresent() ? settings.count("lastRow", 1) : Integer.MAX_VALUE;
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(table.columns().size(), table.name().toString(), shown, true);
        while (!batch.isFull() && hasRow()) {
            Row row = rows.next();
            if (row.getRowNum() > part.headingRow() && row.getRowNum() <= lastRow && (everyRow || !isBlank(row))) {
                record(row, batch);
            }
        }
        return batch.rows() > 0;
    }

    private boolean hasRow() {
        while (rows == null || !rows.hasNext()) {
            if (!sheets.hasNext()) {
                return false;
            }
            if (rows != null) {
                rows.close();
            }
            part = sheets.next();
            rows = new RowsAhead(input.rows(part.sheet()));
        }
        return true;
    }

    private static boolean isBlank(Row row) {
        return row.stream().allMatch(c -> Cells.kind(c) == Cells.Kind.NOTHING);
    }

    private void record(Row row, RecordBatch batch) {
        try {
            for (int i = 0; i < part.places().length; i++) {
                int place = part.places()[i];
                value(row, place < row.getCellCount() ? row.getCell(place) : null, i, batch);
            }
            batch.endRow(row.getRowNum());
        } catch (BadValueException e) {
            batch.dropRow();
            rejects.reject(e);
        }
    }

    private void value(Row row, Cell cell, int column, RecordBatch batch) {
        ColumnDefinition definition = table.columns().get(column);
        Cells.Kind kind = Cells.kind(cell);
        if (kind == Cells.Kind.NOTHING || kind == Cells.Kind.ERROR && errorsAreNull) {
            batch.addNull();
            return;
        }
        if (kind == Cells.Kind.ERROR) {
            throw cell.getRawValue() == null
                    ? bad(
                            row,
                            definition,
                            "=" + cell.getFormula(),
                            "has no result in the file; a spreadsheet program that opens and saves it puts one there")
                    : bad(
                            row,
                            definition,
                            cell.getRawValue(),
                            "is an error of the spreadsheet, and no value; the setting errors can make it null");
        }
        String text = text(row, cell, kind, definition);
        if (definition.type().name().isBinary()) {
            try {
                batch.add(Base64.getDecoder().decode(text));
            } catch (IllegalArgumentException e) {
                throw bad(row, definition, text, "isn't base64, as binary values are written in a spreadsheet");
            }
        } else if (!batch.add(text)) {
            throw bad(row, definition, text, "holds half of a surrogate pair, which no encoding of Unicode has");
        }
    }

    private String text(Row row, Cell cell, Cells.Kind kind, ColumnDefinition definition) {
        try {
            return Cells.text(cell, kind, definition.type(), input.isDate1904());
        } catch (ArithmeticException | DateTimeException e) {
            throw bad(
                    row,
                    definition,
                    cell.getRawValue(),
                    "isn't " + definition.type() + " to a spreadsheet: " + e.getMessage());
        }
    }

    private BadValueException bad(Row row, ColumnDefinition column, String text, String why) {
        return new BadValueException(
                new Origin(table.name().toString(), shown, row.getRowNum(), true), column.name(), text, why);
    }

    @Override
    public void close() {
        if (rows != null) {
            rows.close();
        }
        input.close();
    }
}
