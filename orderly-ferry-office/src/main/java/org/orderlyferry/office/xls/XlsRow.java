package org.orderlyferry.office.xls;

import java.util.List;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.office.sheet.CellKind;
import org.orderlyferry.office.sheet.SheetRow;

/** A row of a binary workbook's sheet. */
record XlsRow(int number, List<XlsCell> cells, boolean from1904) implements SheetRow {

    @Override
    public int width() {
        return cells.size();
    }

    @Override
    public CellKind kind(int place) {
        return cells.get(place).kind();
    }

    @Override
    public String text(int place, LogicalType type) {
        return cells.get(place).text(type, from1904);
    }

    @Override
    public String raw(int place) {
        return cells.get(place).raw();
    }

    @Override
    public boolean isUncomputed(int place) {
        // a binary workbook has a result for each formula
        return false;
    }

    @Override
    public long size() {
        return cells.stream().mapToLong(c -> c.raw().length()).sum();
    }
}
