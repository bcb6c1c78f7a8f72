package org.orderlyferry.office.xlsx;

import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.Row;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.office.sheet.CellKind;
import org.orderlyferry.office.sheet.SheetRow;

/** A workbook's row. */
record XlsxRow(Row row, boolean from1904) implements SheetRow {

    @Override
    public int number() {
        return row.getRowNum();
    }

    @Override
    public int width() {
        return row.getCellCount();
    }

    @Override
    public CellKind kind(int place) {
        return Cells.kind(row.getCell(place));
    }

    @Override
    public String text(int place, LogicalType type) {
        Cell cell = row.getCell(place);
        return Cells.text(cell, Cells.kind(cell), type, from1904);
    }

    @Override
    public String raw(int place) {
        Cell cell = row.getCell(place);
        return cell.getRawValue() == null ? "=" + cell.getFormula() : cell.getRawValue();
    }

    @Override
    public boolean isUncomputed(int place) {
        return row.getCell(place).getRawValue() == null;
    }

    @Override
    public long size() {
        long size = 0;
        for (int i = 0; i < row.getCellCount(); i++) {
            String raw = row.getCell(i) == null ? null : row.getCell(i).getRawValue();
            size += raw == null ? 0 : raw.length();
        }
        return size;
    }
}
