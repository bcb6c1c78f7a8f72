package org.orderlyferry.cluster.spark;

import java.util.function.Supplier;
import org.apache.spark.TaskContext;
import org.orderlyferry.work.Errands;

/** Looks whether Spark wants a task no more: then the statements that it waits for are ended, too. */
final class Watcher implements AutoCloseable {

    private static final long LOOK_MILLIS = 250;

    private final Thread thread;
    private volatile boolean over;

    Watcher(TaskContext task, Errands errands) {
        thread = new Thread(
                () -> {
                    while (!over) {
                        if (task.isInterrupted()) {
                            errands.stop();
                            return;
                        }
                        pause();
                    }
                },
                "ferry-watch");
        thread.setDaemon(true);
        thread.start();
    }

    /** Does what is watched. */
    <T> T watched(Supplier<T> work) {
        return work.get();
    }

    private void pause() {
        try {
            Thread.sleep(LOOK_MILLIS);
        } catch (InterruptedException e) {
            over = true;
        }
    }

    @Override
    public void close() {
        over = true;
        thread.interrupt();
    }
}
