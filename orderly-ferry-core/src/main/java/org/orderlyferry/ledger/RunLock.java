package org.orderlyferry.ledger;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.io.Hold;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.slf4j.LoggerFactory;

/** Held by a process for as long as it works on a crossing's runs. */
@API(status = API.Status.INTERNAL)
public final class RunLock implements AutoCloseable {

    private static final String NAME = ".lock";

    private final Hold hold;

    private RunLock(Hold hold) {
        this.hold = hold;
    }

    /**
     * Takes the lock; it goes with the process, however that ends.
     *
     * @param keep the folder of the runs
     * @param waits told before it is waited to see whether another process still has it, which is only done where there are no
     *     locks
     * @throws UsageException if another process has it: who, and since when
     */
    public static RunLock take(Path keep, Runnable waits) {
        Path file = keep.resolve(NAME);
        try {
            Files.createDirectories(keep);
            Optional<Hold> hold = Hold.take(file, who(), waits);
            if (hold.isEmpty()) {
                String who = Files.readString(file).strip();
                throw new UsageException("another process works on the runs in " + keep
                        + (who.isEmpty() ? "" : ": " + who) + "; nothing was changed");
            }
            return new RunLock(hold.get());
        } catch (IOException e) {
            throw new PlaceException(keep.toString(), "can't be locked: " + e.getMessage(), e);
        }
    }

    /** Who works: user, process and time. */
    public static String who() {
        return System.getProperty("user.name", "somebody") + ", process "
                + ProcessHandle.current().pid() + ", since "
                + Instant.now().truncatedTo(ChronoUnit.SECONDS);
    }

    @Override
    public void close() {
        try {
            hold.close();
        } catch (IOException e) {
            LoggerFactory.getLogger(RunLock.class).debug("the lock goes with the process", e);
        }
    }
}
