package org.orderlyferry.office.xls;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.NoSuchElementException;
import org.apache.poi.hssf.record.BOFRecord;
import org.apache.poi.hssf.record.BlankRecord;
import org.apache.poi.hssf.record.BoolErrRecord;
import org.apache.poi.hssf.record.CellValueRecordInterface;
import org.apache.poi.hssf.record.ColumnInfoRecord;
import org.apache.poi.hssf.record.EOFRecord;
import org.apache.poi.hssf.record.FormulaRecord;
import org.apache.poi.hssf.record.LabelRecord;
import org.apache.poi.hssf.record.LabelSSTRecord;
import org.apache.poi.hssf.record.MergeCellsRecord;
import org.apache.poi.hssf.record.NumberRecord;
import org.apache.poi.hssf.record.Record;
import org.apache.poi.hssf.record.RecordFactoryInputStream;
import org.apache.poi.hssf.record.RowRecord;
import org.apache.poi.hssf.record.StringRecord;
import org.apache.poi.ss.usermodel.FormulaError;
import org.apache.poi.ss.util.CellRangeAddress;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.office.sheet.SheetMarks;
import org.orderlyferry.office.sheet.SheetRow;
import org.orderlyferry.office.sheet.SheetRows;

/** A sheet's rows, as the workbook's records are read: in the order in which those stand, in which a row may come in several pieces. */
final class XlsRows implements SheetRows {

    private final XlsInput input;
    private final WorkbookRecords workbook;
    private final InputStream stream;
    private final RecordFactoryInputStream records;
    private final SheetMarks marks;
    private @Nullable XlsRow ready;
    private List<XlsCell> cells = new ArrayList<>();
    /** The row that is being gathered, from 0; -1 for none. */
    private int number = -1;
    /** A formula whose text comes behind it. */
    private @Nullable FormulaRecord open;

    private int depth = 1;

    /**
     * Rows of a sheet.
     *
     * @param stream stands at its first record
     */
    XlsRows(XlsInput input, WorkbookRecords workbook, InputStream stream, SheetMarks marks) {
        this.input = input;
        this.workbook = workbook;
        this.stream = stream;
        this.marks = marks;
        this.records = new RecordFactoryInputStream(stream, true);
        if (!(records.nextRecord() instanceof BOFRecord begin)) {
            throw new IllegalArgumentException("a sheet that it names isn't where it says; the file is damaged");
        }
        if (begin.getType() == BOFRecord.TYPE_CHART) {
            // what it draws is kept in cells, too: a copy of what stands on other sheets
            depth = 0;
        }
    }

    @Override
    public boolean hasNext() {
        if (ready == null && depth > 0) {
            input.read(() -> {
                advance();
                return null;
            });
        }
        return ready != null;
    }

    @Override
    public SheetRow next() {
        if (!hasNext()) {
            throw new NoSuchElementException();
        }
        XlsRow row = ready;
        ready = null;
        return row;
    }

    /** Reads until a row is whole, or the sheet ends. */
    private void advance() throws IOException {
        while (ready == null && depth > 0) {
            Record record = records.nextRecord();
            if (record == null) {
                throw new IOException("a sheet doesn't end; the file is damaged");
            } else if (record instanceof BOFRecord) {
                // a chart inside of the sheet
                depth++;
            } else if (record instanceof EOFRecord) {
                depth--;
                if (depth == 0) {
                    finish();
                }
            } else if (depth == 1) {
                take(record);
            }
        }
    }

    private void take(Record record) {
        if (record instanceof RowRecord row && row.getZeroHeight()) {
            marks.hidden(row.getRowNumber() + 1L, 1);
        } else if (record instanceof ColumnInfoRecord columns && columns.getHidden()) {
            marks.hiddenColumns(columns.getFirstColumn() + 1L, columns.getLastColumn() + 1L);
        } else if (record instanceof MergeCellsRecord merged) {
            for (short i = 0; i < merged.getNumAreas(); i++) {
                CellRangeAddress area = merged.getAreaAt(i);
                marks.merged(
                        area.getFirstRow() + 1L,
                        area.getLastRow() + 1L,
                        area.getLastColumn() - area.getFirstColumn() + 1L);
            }
        }
        if (record instanceof StringRecord text && open != null) {
            put(open, XlsCell.text(text.getString()));
            open = null;
        } else if (record instanceof CellValueRecordInterface cell) {
            open = null;
            if (cell instanceof FormulaRecord formula && formula.hasCachedResultString()) {
                open = formula;
                // where no text comes, the result is an empty one
                put(formula, XlsCell.text(""));
            } else {
                put(cell, cell(cell));
            }
        }
    }

    private XlsCell cell(CellValueRecordInterface record) {
        if (record instanceof LabelSSTRecord label) {
            return XlsCell.text(workbook.text(label.getSSTIndex()));
        } else if (record instanceof LabelRecord label) {
            return XlsCell.text(label.getValue());
        } else if (record instanceof NumberRecord value) {
            return XlsCell.number(value.getValue(), workbook.format(value.getXFIndex()));
        } else if (record instanceof BoolErrRecord value) {
            return value.isBoolean() ? XlsCell.truth(value.getBooleanValue()) : error(value.getErrorValue());
        } else if (record instanceof FormulaRecord formula) {
            return switch (formula.getCachedResultTypeEnum()) {
                case BOOLEAN -> XlsCell.truth(formula.getCachedBooleanValue());
                case ERROR -> error(formula.getCachedErrorValue());
                // an empty text is a kind of result of its own, behind which no text comes
                case STRING -> XlsCell.text("");
                default -> XlsCell.number(formula.getValue(), workbook.format(formula.getXFIndex()));
            };
        } else if (record instanceof BlankRecord) {
            return XlsCell.NOTHING;
        }
        return XlsCell.error(record.getClass().getSimpleName());
    }

    private static XlsCell error(int code) {
        return XlsCell.error(
                FormulaError.isValidCode(code) ? FormulaError.forInt(code).getString() : "error " + code);
    }

    private void put(CellValueRecordInterface record, XlsCell cell) {
        if (record.getRow() != number) {
            finish();
            number = record.getRow();
        }
        while (cells.size() <= record.getColumn()) {
            cells.add(XlsCell.NOTHING);
        }
        cells.set(record.getColumn(), cell);
    }

    private void finish() {
        if (number >= 0 && !cells.isEmpty()) {
            ready = new XlsRow(number + 1, cells, workbook.isFrom1904());
            cells = new ArrayList<>();
        }
    }

    @Override
    public void close() {
        XlsInput.close(stream);
    }
}
