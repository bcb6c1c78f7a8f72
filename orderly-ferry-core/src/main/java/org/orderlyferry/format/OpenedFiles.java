package org.orderlyferry.format;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.function.Supplier;
import org.apiguardian.api.API;

/**
 * What a format has opened of a file of several tables and nobody reads just now. To open one may mean to read its whole catalogue,
 * which would be done for each of its tables; so it is given back here, and closed when the file's place is. Each is used by one
 * reader at a time. Thread-safe.
 */
@API(status = API.Status.INTERNAL)
public final class OpenedFiles implements AutoCloseable {

    /** Where nobody keeps anything: what is given back is closed. */
    public static final OpenedFiles NONE = new OpenedFiles();

    static {
        NONE.close();
    }

    private final Deque<Opened> idle = new ArrayDeque<>();
    private boolean closed;

    /** A file that has been opened. */
    public interface Opened extends AutoCloseable {

        @Override
        void close();
    }

    /** What somebody reads, until it is closed: it goes back then. */
    public final class Lent<T extends Opened> implements AutoCloseable {

        private final T opened;
        private boolean back;

        private Lent(T opened) {
            this.opened = opened;
        }

        /** What was taken. */
        public T opened() {
            return opened;
        }

        @Override
        public void close() {
            if (!back) {
                back = true;
                giveBack(opened);
            }
        }
    }

    /** Takes one that nobody reads, or opens one. */
    public <T extends Opened> Lent<T> take(Class<T> kind, Supplier<T> opening) {
        synchronized (this) {
            if (!idle.isEmpty() && kind.isInstance(idle.peek())) {
                return new Lent<>(kind.cast(idle.pop()));
            }
        }
        return new Lent<>(opening.get());
    }

    /** Whether what is given back is kept, so that what serves the next table only is worth while. */
    public synchronized boolean isKeeping() {
        return !closed;
    }

    private void giveBack(Opened opened) {
        synchronized (this) {
            if (!closed) {
                idle.push(opened);
                return;
            }
        }
        opened.close();
    }

    /** Closes what nobody reads; what is given back from now on is closed then. */
    @Override
    public synchronized void close() {
        closed = true;
        while (!idle.isEmpty()) {
            idle.pop().close();
        }
    }
}
