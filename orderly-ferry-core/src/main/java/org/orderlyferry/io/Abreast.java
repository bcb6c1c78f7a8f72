package org.orderlyferry.io;

import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.apiguardian.api.API;

/** Does the same with many files: where each of them is a question to another machine, with several at once. */
@API(status = API.Status.INTERNAL)
public final class Abreast {

    private static final int AT_ONCE = 16;
    private static final int FEW = 8;

    private Abreast() {}

    /** What is done with a file. By several threads at once. */
    @FunctionalInterface
    public interface Work {
        /** Does it. */
        void with(Path file) throws IOException;
    }

    /**
     * Does it with each.
     *
     * @throws IOException what one of them failed with; others may have been done
     */
    public static void each(List<Path> files, Work work) throws IOException {
        each(files, 1, work);
    }

    /**
     * The same, for work that takes a processor's time.
     *
     * @param near how many at once where the files are on this machine
     */
    public static void each(List<Path> files, int near, Work work) throws IOException {
        int atOnce = atOnce(files, near);
        if (atOnce <= 1) {
            for (Path file : files) {
                work.with(file);
            }
            return;
        }
        ExecutorService pool = Executors.newFixedThreadPool(atOnce, task -> {
            Thread thread = new Thread(task, "ferry-files");
            thread.setDaemon(true);
            return thread;
        });
        try {
            List<Future<?>> all = new ArrayList<>();
            for (Path file : files) {
                all.add(pool.submit(() -> {
                    work.with(file);
                    return file;
                }));
            }
            for (Future<?> one : all) {
                one.get();
            }
        } catch (ExecutionException e) {
            throw thrown(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("interrupted", e);
        } finally {
            pool.shutdownNow();
        }
    }

    private static int atOnce(List<Path> files, int near) {
        boolean isNear = files.isEmpty() || files.get(0).getFileSystem().equals(FileSystems.getDefault());
        int most = isNear ? near : files.size() < FEW ? 1 : AT_ONCE;
        return Math.min(most, files.size());
    }

    private static IOException thrown(Throwable cause) {
        if (cause instanceof IOException failure) {
            return failure;
        }
        if (cause instanceof RuntimeException failure) {
            throw failure;
        }
        throw (Error) cause;
    }
}
