package org.orderlyferry.progress;

import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.Semaphore;
import java.util.function.Predicate;
import org.apiguardian.api.API;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.problem.StoppedException;

/**
 * Fills things on a thread of its own, a few ahead of who takes them, and no more: as many as there are go round. Nothing is
 * filled ahead of a large one, so that there is never more than one of those. For one thread that takes.
 *
 * @param <T> what is filled, used, given back and filled again
 */
@API(status = API.Status.INTERNAL)
public final class Ahead<T> implements AutoCloseable {

    private static final Object END = new Object();

    private final Predicate<T> fill;
    private final Predicate<T> large;
    private final BlockingQueue<Object> filled;
    private final BlockingQueue<T> empty;
    private final Semaphore largeIsBack = new Semaphore(0);
    private final SideThread thread;
    private volatile boolean stopped;
    private boolean largeIsOut;
    private boolean ended;

    /**
     * Begins to fill.
     *
     * @param name of the thread
     * @param spare what is filled
     * @param fill fills one; false, having filled nothing, at the end. What it throws is thrown to who takes, behind all that was
     *     filled before
     * @param large whether one is so large that nothing is to be filled before it is given back
     */
    public Ahead(String name, List<T> spare, Predicate<T> fill, Predicate<T> large) {
        this.fill = fill;
        this.large = large;
        // room for all of them, for another one, and for the end
        this.empty = new ArrayBlockingQueue<>(spare.size() + 1);
        this.filled = new ArrayBlockingQueue<>(spare.size() + 2);
        empty.addAll(spare);
        this.thread = SideThread.start(name, this::run);
    }

    private void run() {
        try {
            while (!stopped) {
                T next = empty.take();
                if (stopped || !fill.test(next)) {
                    break;
                }
                boolean isLarge = large.test(next);
                filled.put(next);
                if (isLarge) {
                    largeIsBack.acquire();
                }
            }
        } catch (InterruptedException e) {
            throw new IllegalStateException("nobody interrupts who fills", e);
        } finally {
            end();
        }
    }

    /** Waits for room: things that were given back in place of others may be more than there were, and the end mustn't be lost. */
    private void end() {
        try {
            filled.put(END);
        } catch (InterruptedException e) {
            throw new IllegalStateException("nobody interrupts who fills", e);
        }
    }

    /**
     * The next filled one, which is to be given back before another is taken; null at the end.
     *
     * @throws StoppedException if the thread that takes is interrupted while it waits
     */
    public @Nullable T take() {
        if (ended) {
            return null;
        }
        Object next;
        try {
            next = filled.take();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new StoppedException();
        }
        if (next == END) {
            ended = true;
            thread.await();
            thread.rethrow();
            return null;
        }
        @SuppressWarnings("unchecked")
        T one = (T) next;
        largeIsOut = large.test(one);
        return one;
    }

    /** Gives back what was taken, or another one in its place; one more than there were goes round with them. */
    public void giveBack(T used) {
        empty.offer(used);
        if (largeIsOut) {
            largeIsOut = false;
            largeIsBack.release();
        }
    }

    /** Ends the filling, and waits until what is being filled is done; an interrupt would break what drivers do. */
    @Override
    public void close() {
        stopped = true;
        // whatever the filler waits for, it gets it
        while (true) {
            Object left = filled.poll();
            if (left == null || left == END) {
                break;
            }
            @SuppressWarnings("unchecked")
            T one = (T) left;
            empty.offer(one);
        }
        largeIsBack.release();
        thread.await();
    }
}
