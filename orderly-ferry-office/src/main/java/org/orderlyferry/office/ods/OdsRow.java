package org.orderlyferry.office.ods;

import java.util.List;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.office.sheet.CellKind;
import org.orderlyferry.office.sheet.SheetRow;

/** A row of an OpenDocument sheet. */
record OdsRow(int number, List<OdsCell> cells) implements SheetRow {

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
        return cells.get(place).text(type);
    }

    @Override
    public String raw(int place) {
        return cells.get(place).raw();
    }

    @Override
    public boolean isUncomputed(int place) {
        return cells.get(place).raw().startsWith("=");
    }

    @Override
    public int fraction(int place) {
        return cells.get(place).fraction();
    }

    @Override
    public long size() {
        return cells.stream().mapToLong(c -> c.raw().length()).sum();
    }
}
