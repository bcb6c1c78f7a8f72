package org.orderlyferry.office.sheet;

import java.util.Iterator;

/** A sheet's rows, one after the other; those without a cell may be left out. */
public interface SheetRows extends Iterator<SheetRow>, AutoCloseable {

    @Override
    void close();
}
