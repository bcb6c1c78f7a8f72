package org.orderlyferry.office.xlsx;

import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import org.dhatim.fastexcel.reader.Row;
import org.orderlyferry.problem.StoppedException;
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
    private final BlockingQueue<Piece> pieces = new ArrayBlockingQueue<>(WAITING);
    private final SideThread thread;
    private volatile boolean stopped;
    private Piece piece = new Piece(List.of(), null, false);
    private Iterator<Row> current = piece.rows().iterator();

    /**
     * Some rows.
     *
     * @param failure what stopped the reading behind these rows; null for nothing
     */
    private record Piece(List<Row> rows, Throwable failure, boolean last) {}

    RowsAhead(SheetRows rows) {
        this.rows = rows;
        this.thread = SideThread.start("ferry-rows-ahead", this::run);
    }

    private void run() {
        List<Row> some = new ArrayList<>(TOGETHER);
        try {
            Throwable failure = null;
            try {
                long size = 0;
                while (!stopped && rows.hasNext()) {
                    Row row = rows.next();
                    some.add(row);
                    size += size(row);
                    if (some.size() == TOGETHER || size > LARGE) {
                        pieces.put(new Piece(some, null, false));
                        some = new ArrayList<>(TOGETHER);
                        size = 0;
                    }
                }
            } catch (RuntimeException | Error e) {
                failure = e;
            }
            pieces.put(new Piece(some, failure, true));
        } catch (InterruptedException e) {
            // closed in the middle of the sheet
        }
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
            SideThread.rethrow(piece.failure());
            if (piece.last()) {
                return false;
            }
            try {
                piece = pieces.take();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw new StoppedException();
            }
            current = piece.rows().iterator();
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
        stopped = true;
        thread.stop();
        rows.close();
    }
}
