package org.orderlyferry.ledger;

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
import org.apiguardian.api.API;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/**
 * One run's folder: {@code ledger.jsonl}, {@code crossing.yaml} as it was, {@code set}, {@code backup}, the plans,
 * and in {@code record} what each step has counted.
 *
 * @param path where it is
 */
@API(status = API.Status.INTERNAL)
public record RunFolder(Path path) {

    private static final DateTimeFormatter NAME = DateTimeFormatter.ofPattern("uuuu-MM-dd'T'HH-mm-ss", Locale.ROOT);
    private static final Pattern RUN = Pattern.compile("\\d{4}-\\d\\d-\\d\\dT\\d\\d-\\d\\d-\\d\\d");

    /** What the run exports: an export set. */
    public Path set() {
        return path.resolve("set");
    }

    /** What the target had before: an export set. */
    public Path backup() {
        return path.resolve("backup");
    }

    /** The crossing, as the run was begun with it. */
    public Path crossing() {
        return path.resolve("crossing.yaml");
    }

    /** How the export was cut. */
    public Path exportPlan() {
        return path.resolve("export-plan.json");
    }

    /** How the load was cut. */
    public Path loadPlan() {
        return path.resolve("load-plan.json");
    }

    /** The records that differ after the load, where the proof has found any by rows: an export set. */
    public Path differences() {
        return path.resolve("differences");
    }

    /** What a step leaves in the run's record. */
    public Path record(LedgerLine.Step step) {
        return path.resolve("record").resolve(step.word() + ".json");
    }

    /** The records that were rejected, with their reasons. */
    public Path rejects() {
        return path.resolve("rejects.csv");
    }

    /** The moment that it was begun, which is its name. */
    public String name() {
        return path.getFileName().toString();
    }

    /** All runs that a folder keeps, the oldest first. */
    public static List<RunFolder> all(Path keep) {
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

    /** The last run that a folder keeps. */
    public static Optional<RunFolder> last(Path keep) {
        List<RunFolder> all = all(keep);
        return all.isEmpty() ? Optional.empty() : Optional.of(all.get(all.size() - 1));
    }

    /** A new run's folder, named by the moment; also where the clock was put back, it comes behind all others. */
    public static RunFolder next(Path keep) {
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
}
