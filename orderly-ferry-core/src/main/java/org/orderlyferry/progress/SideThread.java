package org.orderlyferry.progress;

import org.apiguardian.api.API;
import org.jspecify.annotations.Nullable;

/**
 * Work on a thread of its own; what it failed with is kept for who waits for it. It doesn't keep the process alive: who
 * began it waits for it, or stops it.
 */
@API(status = API.Status.INTERNAL)
public final class SideThread {

    private final Thread thread;
    private @Nullable Throwable failure;

    private SideThread(String name, Runnable work) {
        this.thread = new Thread(() -> run(work), name);
        thread.setDaemon(true);
    }

    /** Begins it. */
    public static SideThread start(String name, Runnable work) {
        SideThread side = new SideThread(name, work);
        side.thread.start();
        return side;
    }

    private void run(Runnable work) {
        try {
            work.run();
        } catch (RuntimeException | Error e) {
            failure = e;
        }
    }

    /**
     * Waits for its end, and for no less: what it works with may be closed after it. An interrupt is kept for who looks
     * for it.
     */
    public void await() {
        boolean interrupted = false;
        while (thread.isAlive()) {
            try {
                thread.join();
            } catch (InterruptedException e) {
                interrupted = true;
            }
        }
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
    }

    /** Interrupts it, and waits for its end. */
    public void stop() {
        thread.interrupt();
        await();
    }

    /** Throws what it failed with, if it did; to be asked when it has ended. */
    public void rethrow() {
        rethrow(failure);
    }

    /** Throws a failure of another thread; nothing for null. */
    public static void rethrow(@Nullable Throwable failure) {
        if (failure instanceof RuntimeException e) {
            throw e;
        }
        if (failure instanceof Error e) {
            throw e;
        }
    }
}
