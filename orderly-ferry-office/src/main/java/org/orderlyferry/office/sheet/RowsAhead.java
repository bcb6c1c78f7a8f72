package org.orderlyferry.office.sheet;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Iterator;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.stream.Stream;
import org.orderlyferry.progress.Ahead;
import org.orderlyferry.progress.SideThread;

/**
 * A sheet's rows, taken apart on a thread of its own: unpacking them and reading their XML is most of the work, and what
 * becomes of the cells needn't wait for it.
 */
final class RowsAhead implements Iterator<SheetRow>, AutoCloseable {

    /** Rows that are handed over at once. */
    private static final int TOGETHER = 64;
    /** Characters that make a piece large before it has all its rows. */
    private static final int LARGE = 64 * 1024;
    /** Pieces that may wait. */
    private static final int WAITING = 4;

    private final SheetRows rows;
    private final Ahead<List<SheetRow>> ahead;
    /** What stopped the reading; told behind the rows before it. */
    private Throwable failure;

    private List<SheetRow> piece;
    private Iterator<SheetRow> current = Collections.emptyIterator();

    RowsAhead(SheetRows rows) {
        this.rows = rows;
        List<List<SheetRow>> pieces = Stream.generate(() -> (List<SheetRow>) new ArrayList<SheetRow>(TOGETHER))
                .limit(WAITING)
                .toList();
        this.ahead = new Ahead<>("ferry-rows-ahead", pieces, this::fill, some -> false);
    }

    private boolean fill(List<SheetRow> some) {
        SideThread.rethrow(failure);
        some.clear();
        long size = 0;
        try {
            while (some.size() < TOGETHER && size <= LARGE && rows.hasNext()) {
                SheetRow row = rows.next();
                some.add(row);
                size += row.size();
            }
        } catch (RuntimeException | Error e) {
            failure = e;
        }
        return !some.isEmpty() || failure != null;
    }

    @Override
    public boolean hasNext() {
        while (!current.hasNext()) {
            if (piece != null) {
                ahead.giveBack(piece);
            }
            piece = ahead.take();
            if (piece == null) {
                return false;
            }
            current = piece.iterator();
        }
        return true;
    }

    @Override
    public SheetRow next() {
        if (!hasNext()) {
            throw new NoSuchElementException();
        }
        return current.next();
    }

    @Override
    public void close() {
        ahead.close();
        rows.close();
    }
}
