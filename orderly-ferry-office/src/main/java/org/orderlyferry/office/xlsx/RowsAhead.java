package org.orderlyferry.office.xlsx;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Iterator;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.stream.Stream;
import org.dhatim.fastexcel.reader.Row;
import org.orderlyferry.progress.Ahead;
import org.orderlyferry.progress.SideThread;

/**
 * A sheet's rows, taken apart on a thread of its own: unpacking them and reading their XML is most of the work, and what
 * becomes of the cells needn't wait for it.
 */
final class RowsAhead implements Iterator<Row>, AutoCloseable {

    /** Rows that are handed over at once. */
    private static final int TOGETHER = 64;
    /** Characters that make a piece large before it has all its rows. */
    private static final int LARGE = 64 * 1024;
    /** Pieces that may wait. */
    private static final int WAITING = 4;

    private final SheetRows rows;
    private final Ahead<List<Row>> ahead;
    /** What stopped the reading; told behind the rows before it. */
    private Throwable failure;

    private List<Row> piece;
    private Iterator<Row> current = Collections.emptyIterator();

    RowsAhead(SheetRows rows) {
        this.rows = rows;
        List<List<Row>> pieces = Stream.generate(() -> (List<Row>) new ArrayList<Row>(TOGETHER))
                .limit(WAITING)
                .toList();
        this.ahead = new Ahead<>("ferry-rows-ahead", pieces, this::fill, some -> false);
    }

    private boolean fill(List<Row> some) {
        SideThread.rethrow(failure);
        some.clear();
        long size = 0;
        try {
            while (some.size() < TOGETHER && size <= LARGE && rows.hasNext()) {
                Row row = rows.next();
                some.add(row);
                size += size(row);
            }
        } catch (RuntimeException | Error e) {
            failure = e;
        }
        return !some.isEmpty() || failure != null;
    }

    private static long size(Row row) {
        long size = 0;
        for (int i = 0; i < row.getCellCount(); i++) {
            String raw = row.getCell(i) == null ? null : row.getCell(i).getRawValue();
            size += raw == null ? 0 : raw.length();
        }
        return size;
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
    public Row next() {
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
