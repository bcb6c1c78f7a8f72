package org.orderlyferry.crossing;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.orderlyferry.io.Hold;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/**
 * One run's folder: {@code ledger.jsonl}, {@code crossing.yaml} as it was, {@code set}, {@code backup}, the plans,
 * and in {@code record} what each step has counted.
 *
 * @param path where it is
 */
record RunFolder(Path path) {

    private static final DateTimeFormatter NAME = DateTimeFormatter.ofPattern("uuuu-MM-dd'T'HH-mm-ss", Locale.ROOT);
    private static final Pattern RUN = Pattern.compile("\\d{4}-\\d\\d-\\d\\dT\\d\\d-\\d\\d-\\d\\d");
    private static final String LOCK = ".lock";

    Path set() {
        return path.resolve("set");
    }

    Path backup() {
        return path.resolve("backup");
    }

    Path crossing() {
        return path.resolve("crossing.yaml");
    }

    Path exportPlan() {
        return path.resolve("export-plan.json");
    }

    Path loadPlan() {
        return path.resolve("load-plan.json");
    }

    /** The records that differ after the load, where the proof has found any by rows: an export set. */
    Path differences() {
        return path.resolve("differences");
    }

    /** What a step leaves in the run's record. */
    Path record(LedgerLine.Step step) {
        return path.resolve("record").resolve(YamlReading.word(step) + ".json");
    }

    Path rejects() {
        return path.resolve("rejects.csv");
    }

    String name() {
        return path.getFileName().toString();
    }

    /** All runs that a folder keeps, the oldest first. */
    static List<RunFolder> all(Path keep) {
        if (!Files.isDirectory(keep)) {
            return List.of();
        }
        try (Stream<Path> folders = Files.list(keep)) {
            // the arrivals' own folder is no run
            return folders.filter(f -> RUN.matcher(f.getFileName().toString()).matches())
                    .filter(f -> Files.isRegularFile(f.resolve(RunLedger.NAME)))
                    .sorted()
                    .map(RunFolder::new)
                    .toList();
        } catch (IOException e) {
            throw new PlaceException(keep.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    static Optional<RunFolder> last(Path keep) {
        List<RunFolder> all = all(keep);
        return all.isEmpty() ? Optional.empty() : Optional.of(all.get(all.size() - 1));
    }

    /** A new run's folder, named by the moment; also where the clock was put back, it comes behind all others. */
    static RunFolder next(Path keep) {
        LocalDateTime now =
                LocalDateTime.ofInstant(Instant.now(), ZoneOffset.UTC).withNano(0);
        Optional<RunFolder> last = last(keep);
        if (last.isPresent()) {
            try {
                LocalDateTime before = LocalDateTime.parse(last.get().name(), NAME);
                now = now.isAfter(before) ? now : before.plusSeconds(1);
            } catch (java.time.format.DateTimeParseException e) {
                throw new UsageException(last.get().path() + " isn't named as a run is; move it elsewhere", e);
            }
        }
        return new RunFolder(keep.resolve(NAME.format(now)));
    }

    /** Held by a process for as long as it works on a crossing's runs. */
    static final class Lock implements AutoCloseable {

        private final Hold hold;

        private Lock(Hold hold) {
            this.hold = hold;
        }

        /**
         * Takes the lock; it goes with the process, however that ends.
         *
         * @throws UsageException if another process has it: who, and since when
         */
        static Lock take(Path keep, RunListener listener) {
            Path file = keep.resolve(LOCK);
            try {
                Files.createDirectories(keep);
                Optional<Hold> hold = Hold.take(file, who(), listener::waits);
                if (hold.isEmpty()) {
                    String who = Files.readString(file).strip();
                    throw new UsageException("another process works on the runs in " + keep
                            + (who.isEmpty() ? "" : ": " + who) + "; nothing was changed");
                }
                return new Lock(hold.get());
            } catch (IOException e) {
                throw new PlaceException(keep.toString(), "can't be locked: " + e.getMessage(), e);
            }
        }

        @Override
        public void close() {
            try {
                hold.close();
            } catch (IOException e) {
                org.slf4j.LoggerFactory.getLogger(RunFolder.class).debug("the lock goes with the process", e);
            }
        }
    }

    /** Who works: user, process and time. */
    static String who() {
        return System.getProperty("user.name", "somebody") + ", process "
                + ProcessHandle.current().pid() + ", since "
                + Instant.now().truncatedTo(java.time.temporal.ChronoUnit.SECONDS);
    }
}
