package org.orderlyferry.progress;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Iterator;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.function.ToLongFunction;
import java.util.stream.Stream;
import org.apiguardian.api.API;
import org.jspecify.annotations.Nullable;

/**
 * What an iterator gives, asked for on a thread of its own and handed over in pieces, a few ahead of who takes them. What the iterator
 * throws is thrown to who takes, behind all that came before it. For one thread that takes.
 *
 * @param <T> what it gives
 */
@API(status = API.Status.INTERNAL)
public final class PiecesAhead<T> implements Iterator<T>, AutoCloseable {

    /** Pieces that may wait. */
    private static final int WAITING = 4;

    private final Iterator<? extends T> source;
    private final ToLongFunction<? super T> size;
    private final Bounds bounds;
    private final Ahead<List<T>> ahead;
    private final Runnable closing;
    /** What stopped the reading. */
    private @Nullable Throwable failure;

    private @Nullable List<T> piece;
    private Iterator<T> current = Collections.emptyIterator();

    /**
     * How large a piece is.
     *
     * @param count how many things at most
     * @param size with which size, of all of them together, it has no room for another. Nothing is asked for beside a single one of
     *     that size
     */
    public record Bounds(int count, long size) {}

    /**
     * Begins to ask.
     *
     * @param name of the thread
     * @param source not asked by anyone else until this is closed
     * @param size how large a thing is, in whatever measure the bounds have
     * @param closing closes the source
     */
    public PiecesAhead(
            String name,
            Iterator<? extends T> source,
            ToLongFunction<? super T> size,
            Bounds bounds,
            Runnable closing) {
        this.closing = closing;
        this.source = source;
        this.size = size;
        this.bounds = bounds;
        List<List<T>> pieces = Stream.generate(() -> (List<T>) new ArrayList<T>(bounds.count()))
                .limit(WAITING)
                .toList();
        this.ahead = new Ahead<>(name, pieces, this::fill, this::isLarge);
    }

    private boolean fill(List<T> some) {
        SideThread.rethrow(failure);
        some.clear();
        long all = 0;
        try {
            while (some.size() < bounds.count() && all < bounds.size() && source.hasNext()) {
                T one = source.next();
                some.add(one);
                all += size.applyAsLong(one);
            }
        } catch (RuntimeException | Error e) {
            failure = e;
        }
        return !some.isEmpty() || failure != null;
    }

    private boolean isLarge(List<T> some) {
        return some.size() == 1 && size.applyAsLong(some.get(0)) >= bounds.size();
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
    public T next() {
        if (!hasNext()) {
            throw new NoSuchElementException();
        }
        return current.next();
    }

    /** Ends the asking, waits until what is being asked for is there, and closes the source. */
    @Override
    public void close() {
        ahead.close();
        closing.run();
    }
}
