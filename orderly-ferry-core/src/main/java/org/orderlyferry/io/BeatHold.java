package org.orderlyferry.io;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.slf4j.LoggerFactory;

/**
 * By beats, for file systems without locks: a second file, whose name says who has hold of it, and whose time its owner
 * changes again and again. It is taken over by renaming that file, which only one of several succeeds in; and only when
 * its time was seen not to change for a while, so that no clock has to agree with another. Who was taken over finds its
 * file gone.
 */
final class BeatHold extends Hold {

    static final String BY = ".by-";

    private static final String NOBODY = BY + "nobody";
    private static final Duration BEAT = Duration.ofSeconds(3);
    private static final Duration SILENCE = Duration.ofSeconds(12);

    private final Path mark;
    private final ScheduledExecutorService heart;

    private BeatHold(Path file, Path mark) {
        super(file);
        this.mark = mark;
        this.heart = Executors.newSingleThreadScheduledExecutor(work -> {
            Thread thread = new Thread(work, "ferry-hold");
            thread.setDaemon(true);
            return thread;
        });
        heart.scheduleWithFixedDelay(this::beat, 0, BEAT.toMillis(), TimeUnit.MILLISECONDS);
    }

    private void beat() {
        try {
            touch();
        } catch (IOException | RuntimeException e) {
            LoggerFactory.getLogger(BeatHold.class).debug("{} is not told that it is held", file, e);
        }
    }

    private void touch() throws IOException {
        Instant now = Instant.now();
        try {
            Files.setLastModifiedTime(mark, FileTime.from(now));
        } catch (UnsupportedOperationException e) {
            // its time is that of what was written to it last
            Files.writeString(mark, now.toString(), StandardOpenOption.WRITE, StandardOpenOption.TRUNCATE_EXISTING);
        }
    }

    static Optional<Hold> taken(Path file, String content, Runnable waits) throws IOException {
        Path mine = file.resolveSibling(file.getFileName() + BY + UUID.randomUUID());
        Optional<Path> mark = mark(file);
        if (mark.isPresent()) {
            boolean letGo = isLetGo(file, mark.get());
            if (!letGo) {
                waits.run();
            }
            if (!letGo && isBeating(mark.get()) || !isMoved(mark.get(), mine)) {
                return Optional.empty();
            }
        } else {
            try {
                // one of several makes it
                Files.write(file, new byte[0], StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
            } catch (FileAlreadyExistsException e) {
                if (isFresh(file)) {
                    return Optional.empty();
                }
            }
            Files.write(mine, new byte[0], StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
        }
        NewFile.whole(file, content.getBytes(java.nio.charset.StandardCharsets.UTF_8));
        return Optional.of(new BeatHold(file, mine));
    }

    static boolean isAlive(Path file) throws IOException {
        Optional<Path> mark = mark(file);
        return mark.isPresent()
                ? !isLetGo(file, mark.get()) && isBeating(mark.get())
                : Files.exists(file) && isFresh(file);
    }

    private static boolean isLetGo(Path file, Path mark) {
        return mark.getFileName().toString().equals(file.getFileName() + NOBODY);
    }

    private static boolean isMoved(Path from, Path to) throws IOException {
        try {
            Files.move(from, to, StandardCopyOption.ATOMIC_MOVE);
            return true;
        } catch (NoSuchFileException e) {
            return false;
        }
    }

    private static Optional<Path> mark(Path file) throws IOException {
        String begins = file.getFileName() + BY;
        Path folder = file.toAbsolutePath().getParent();
        if (!Files.isDirectory(folder)) {
            return Optional.empty();
        }
        try (Stream<Path> all = Files.list(folder)) {
            List<Path> marks = all.filter(p -> p.getFileName().toString().startsWith(begins))
                    .sorted()
                    .toList();
            return marks.stream().findFirst();
        }
    }

    /** Whoever made it may be about to say so; by a clock of another machine, so that it is a long time. */
    private static boolean isFresh(Path file) throws IOException {
        return Files.getLastModifiedTime(file).toInstant().isAfter(Instant.now().minus(SILENCE.multipliedBy(50)));
    }

    private static boolean isBeating(Path mark) throws IOException {
        try {
            FileTime before = Files.getLastModifiedTime(mark);
            for (long waited = 0; waited < SILENCE.toMillis(); waited += 500) {
                Thread.sleep(500);
                if (!Files.getLastModifiedTime(mark).equals(before)) {
                    return true;
                }
            }
            return false;
        } catch (NoSuchFileException e) {
            // somebody takes it at this moment
            return true;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("interrupted while waiting for a sign of life", e);
        }
    }

    @Override
    public void mustBeOurs() throws IOException {
        if (!Files.exists(mark)) {
            throw new IOException(
                    "another process has taken it over, since this one gave no sign of life for more than "
                            + SILENCE.toSeconds() + " seconds");
        }
    }

    @Override
    public void remove() throws IOException {
        close();
        Files.deleteIfExists(file.resolveSibling(file.getFileName() + NOBODY));
        Files.deleteIfExists(file);
    }

    @Override
    public void close() throws IOException {
        heart.shutdownNow();
        try {
            if (!heart.awaitTermination(SILENCE.toMillis(), TimeUnit.MILLISECONDS)) {
                LoggerFactory.getLogger(BeatHold.class).debug("the last sign of life is still on its way");
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        Path nobody = file.resolveSibling(file.getFileName() + NOBODY);
        if (Files.exists(mark) && !isMoved(mark, nobody)) {
            LoggerFactory.getLogger(BeatHold.class).debug("{} was taken over", file);
        }
    }
}
