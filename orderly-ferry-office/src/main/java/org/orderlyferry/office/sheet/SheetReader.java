package org.orderlyferry.office.sheet;

import java.time.DateTimeException;
import java.util.Base64;
import java.util.Iterator;
import java.util.List;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.progress.PiecesAhead;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Reads the records of a table's sheets, one sheet after the other. */
final class SheetReader implements RecordReader {

    /** Rows, and characters in them, that are handed over at once. */
    private static final PiecesAhead.Bounds AHEAD = new PiecesAhead.Bounds(64, 64 * 1024);

    private final SheetInput input;
    private final String shown;
    private final TableDefinition table;
    private final Iterator<SheetPart> sheets;
    private final boolean everyRow;
    private final Rejects rejects;
    private final int lastRow;
    private final boolean errorsAreNull;
    /** Null before the first sheet. */
    private PiecesAhead<SheetRow> rows;

    private SheetPart part;

    /**
     * A sheet of a table.
     *
     * @param headingRow from 1; 0 where there is none
     * @param places where the wanted columns are in it
     */
    record SheetPart(String sheet, int headingRow, int[] places) {}

    /**
     * A reader.
     *
     * @param everyRow whether a row without values is a record of nulls, rather than none
     */
    SheetReader(
            SheetInput input,
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
            SheetRow row = rows.next();
            if (row.number() > part.headingRow() && row.number() <= lastRow && (everyRow || !isBlank(row))) {
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
            rows = ahead(input.rows(part.sheet()));
        }
        return true;
    }

    /** Unpacking rows and reading their XML is most of the work, and what becomes of the cells needn't wait for it. */
    private static PiecesAhead<SheetRow> ahead(SheetRows rows) {
        return new PiecesAhead<>("ferry-rows-ahead", rows, SheetRow::size, AHEAD, rows::close);
    }

    /** Whether a row has no values. */
    static boolean isBlank(SheetRow row) {
        for (int place = 0; place < row.width(); place++) {
            if (row.kind(place) != CellKind.NOTHING) {
                return false;
            }
        }
        return true;
    }

    private void record(SheetRow row, RecordBatch batch) {
        try {
            for (int i = 0; i < part.places().length; i++) {
                value(row, part.places()[i], i, batch);
            }
            batch.endRow(row.number());
        } catch (BadValueException e) {
            batch.dropRow();
            rejects.reject(e);
        }
    }

    private void value(SheetRow row, int place, int column, RecordBatch batch) {
        ColumnDefinition definition = table.columns().get(column);
        CellKind kind = place < row.width() ? row.kind(place) : CellKind.NOTHING;
        if (kind == CellKind.NOTHING || kind == CellKind.ERROR && errorsAreNull) {
            batch.addNull();
            return;
        }
        if (kind == CellKind.ERROR) {
            throw bad(
                    row,
                    definition,
                    row.raw(place),
                    row.isUncomputed(place)
                            ? "has no result in the file; a spreadsheet program that opens and saves it puts one there"
                            : "is an error of the spreadsheet, and no value; the setting errors can make it null");
        }
        String text = text(row, place, definition);
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

    private String text(SheetRow row, int place, ColumnDefinition definition) {
        try {
            return row.text(place, definition.type());
        } catch (ArithmeticException | DateTimeException e) {
            throw bad(
                    row,
                    definition,
                    row.raw(place),
                    "isn't " + definition.type() + " to a spreadsheet: " + e.getMessage());
        }
    }

    private BadValueException bad(SheetRow row, ColumnDefinition column, String text, String why) {
        return new BadValueException(
                new Origin(table.name().toString(), shown, row.number(), true), column.name(), text, why);
    }

    @Override
    public void close() {
        if (rows != null) {
            rows.close();
        }
        input.close();
    }
}
