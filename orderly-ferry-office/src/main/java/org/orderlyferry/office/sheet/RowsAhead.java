package org.orderlyferry.office.sheet;

import java.util.Iterator;
import org.orderlyferry.progress.PiecesAhead;

/**
 * A sheet's rows, taken apart on a thread of its own: unpacking them and reading their XML is most of the work, and what
 * becomes of the cells needn't wait for it.
 */
final class RowsAhead implements Iterator<SheetRow>, AutoCloseable {

    /** Rows, and characters in them. */
    private static final PiecesAhead.Bounds BOUNDS = new PiecesAhead.Bounds(64, 64 * 1024);

    private final SheetRows rows;
    private final PiecesAhead<SheetRow> ahead;

    RowsAhead(SheetRows rows) {
        this.rows = rows;
        this.ahead = new PiecesAhead<>("ferry-rows-ahead", rows, SheetRow::size, BOUNDS);
    }

    @Override
    public boolean hasNext() {
        return ahead.hasNext();
    }

    @Override
    public SheetRow next() {
        return ahead.next();
    }

    @Override
    public void close() {
        ahead.close();
        rows.close();
    }
}
