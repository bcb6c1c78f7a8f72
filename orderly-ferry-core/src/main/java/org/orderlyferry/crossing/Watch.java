package org.orderlyferry.crossing;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.ledger.RunLock;
import org.orderlyferry.model.NamePattern;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/**
 * Takes files that arrive, each once, by its content, when it is whole. Every file is a run of its own, with its set, its
 * proof and its ledger; one that isn't as the crossing expects is refused as a whole, with its reasons, and the next one goes
 * on. Not safe for use by several threads.
 */
@NullMarked
public final class Watch extends CrossingWork<Watch> {

    private final Crossing crossing;
    private final Arrivals arrivals;

    /** Files that an earlier look is done with, as they were then; they may have to stay where they are. */
    private final Map<Path, Object> settled = new HashMap<>();

    private Watch(Crossing crossing) {
        this.crossing = crossing;
        this.arrivals = crossing.arrivals()
                .orElseThrow(() -> new UsageException(
                        "the crossing says nothing of arrivals; it needs that key, with a" + " folder and a pattern"));
        if (crossing.tables().size() != 1) {
            throw new UsageException("a crossing of files that arrive has one table, and this has "
                    + crossing.tables().size());
        }
        if (new Choices(crossing).has(LoadMode.CREATE)) {
            throw new UsageException(
                    "a crossing of files that arrive says onto: append, replace or merge; with refuse, the second file"
                            + " would be refused");
        }
    }

    @Override
    Watch self() {
        return this;
    }

    /**
     * For a crossing.
     *
     * @throws UsageException if it isn't one of files that arrive
     */
    public static Watch of(Crossing crossing) {
        return new Watch(crossing);
    }

    /** All files that were taken or refused so far, the oldest first. */
    public List<Arrival> arrivals() {
        return ArrivalLedger.all(crossing.keep());
    }

    /**
     * Takes what is there now. What an earlier look of this watch has taken or refused, and what is as it was then, isn't
     * looked at again.
     *
     * @return what became of each file, in the order of their names
     * @throws PlaceException if the folder can't be read, or the target fails: the file stays for the next time
     */
    @SuppressWarnings("try") // the lock is held, and nothing else is done with it
    public List<Arrival> once() {
        List<Arrival> seen = new ArrayList<>();
        try (RunLock lock = RunLock.take(crossing.keep().resolve("arrivals"), listener::waits);
                ArrivalLedger ledger = ArrivalLedger.open(crossing.keep())) {
            List<Path> waiting = waiting();
            settled.keySet().retainAll(waiting);
            for (Path file : waiting) {
                stop.check();
                Object state = state(file);
                if (!state.equals(settled.get(file))) {
                    Arrival arrival = seen(file, ledger);
                    seen.add(arrival);
                    if (arrival.state() != Arrival.State.GROWING) {
                        settled.put(file, state);
                    }
                }
            }
        }
        return seen;
    }

    private List<Path> waiting() {
        NamePattern names = NamePattern.of(arrivals.pattern());
        try (Stream<Path> files = Files.list(arrivals.folder())) {
            return files.filter(f -> names.matches(f.getFileName().toString()))
                    .filter(f -> Files.isRegularFile(f) || Files.isSymbolicLink(f))
                    .sorted()
                    .toList();
        } catch (IOException e) {
            throw new PlaceException(arrivals.folder().toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    /** What changes when a file does. */
    private static Object state(Path file) {
        try {
            BasicFileAttributes now = Files.readAttributes(file, BasicFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
            return List.of(now.size(), now.lastModifiedTime(), String.valueOf(now.fileKey()));
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    private Arrival seen(Path file, ArrivalLedger ledger) {
        String name = file.getFileName().toString();
        if (Files.isSymbolicLink(file)) {
            // whoever may put files here needn't be one who may read what it leads to
            Arrival link = new Arrival(
                    Instant.now(), name, "", 0, Arrival.State.REFUSED, "it is a link, and only files are taken");
            ledger.note(link);
            refuse(file, link);
            return link;
        }
        if (!isWhole(file)) {
            return new Arrival(Instant.now(), name, "", 0, Arrival.State.GROWING, "");
        }
        String content = content(file);
        Optional<Arrival> before = ledger.taken(content);
        if (before.isPresent()) {
            move(file, arrivals.taken());
            return new Arrival(
                    Instant.now(),
                    name,
                    content,
                    before.get().rows(),
                    Arrival.State.KNOWN,
                    "its content was taken at " + before.get().at().truncatedTo(ChronoUnit.SECONDS) + " as "
                            + before.get().file());
        }
        Arrival arrival;
        try {
            arrival = new Arrival(Instant.now(), name, content, take(file, content), Arrival.State.TAKEN, "");
        } catch (BadValueException | BadRecordException | MalformedFileException | UsageException e) {
            arrival = refused(name, content, e);
        } catch (PlaceException e) {
            if (e.isLost() || e.isDenied() || !isTargetThere()) {
                throw e;
            }
            // the target works, and takes all but this
            arrival = refused(name, content, e);
        }
        ledger.note(arrival);
        if (arrival.state() == Arrival.State.TAKEN) {
            move(file, arrivals.taken());
        } else {
            refuse(file, arrival);
        }
        return arrival;
    }

    private boolean isTargetThere() {
        try (TargetPlace target = new Ends(crossing, secrets).target()) {
            return !target.address().isEmpty();
        } catch (FerryException e) {
            return false;
        }
    }

    /** What was begun of it is given up: the same content may come again when the crossing says otherwise. */
    private Arrival refused(String name, String content, FerryException why) {
        Runs.unfinished(kept(content)).ifPresent(folder -> {
            try (RunLedger ledger = RunLedger.open(folder.path())) {
                ledger.note(LedgerLine.Step.RUN, LedgerLine.State.GIVEN_UP, Map.of("why", why.getMessage()));
            }
        });
        return new Arrival(Instant.now(), name, content, 0, Arrival.State.REFUSED, why.getMessage());
    }

    private Path kept(String content) {
        return crossing.keep().resolve("arrivals").resolve(content.substring(0, 16));
    }

    private boolean isWhole(Path file) {
        if (!arrivals.marker().isEmpty()) {
            return Files.exists(file.resolveSibling(file.getFileName() + arrivals.marker()));
        }
        try {
            BasicFileAttributes before = Files.readAttributes(file, BasicFileAttributes.class);
            Instant still = before.lastModifiedTime().toInstant().plus(arrivals.wholeAfter());
            return !Instant.now().isBefore(still);
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    private static String content(Path file) {
        try {
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            try (InputStream in = new DigestInputStream(Files.newInputStream(file), digest)) {
                in.transferTo(java.io.OutputStream.nullOutputStream());
            }
            return HexFormat.of().formatHex(digest.digest());
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be read: " + e.getMessage(), e);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    /** A run of its own, kept by the file's content; one that was cut short goes on. */
    private long take(Path file, String content) {
        CrossingTable wanted = crossing.tables().get(0);
        Path keep = kept(content);
        Optional<RunFolder> begun = Runs.unfinished(keep);
        CrossingTable table = new CrossingTable(
                begun.isPresent() ? nameOf(begun.get()) : expected(file, wanted),
                wanted.to(),
                wanted.where(),
                wanted.cutBy(),
                "",
                wanted.columns(),
                wanted.skip(),
                wanted.own());
        Crossing one = crossing.toBuilder()
                .from(file.toString())
                .keep(keep)
                .tables(List.of(table))
                .build();
        RunResult result =
                Run.of(one).secrets(secrets).listener(listener).stopSignal(stop).run();
        if (!result.equal()) {
            throw new PlaceException(
                    crossing.to(),
                    "after " + file.getFileName() + " was loaded, the target isn't as it should be; see "
                            + result.folder(),
                    null);
        }
        return result.steps().stream()
                .filter(l -> l.what() == LedgerLine.Step.EXPORT && l.state() == LedgerLine.State.DONE)
                .mapToLong(l -> Long.parseLong(l.fact("rows")))
                .findFirst()
                .orElse(0);
    }

    private static TableName nameOf(RunFolder begun) {
        return Crossing.read(begun.crossing()).tables().get(0).name();
    }

    /** The file's one table, if it is as the crossing expects. */
    private TableName expected(Path file, CrossingTable wanted) {
        try (Place place = Places.open(file)) {
            List<TableName> tables = place.tables();
            if (tables.size() != 1) {
                throw new UsageException(file.getFileName() + " has " + tables.size() + " tables, and one is expected");
            }
            TableDefinition definition = place.define(tables.get(0));
            List<String> wrong = Ends.compare(
                    new CrossingTable(tables.get(0), wanted.to(), "", "", "", wanted.columns(), wanted.skip()),
                    definition);
            if (!wrong.isEmpty()) {
                throw new UsageException(String.join("; ", wrong));
            }
            long rows = place.count(tables.get(0));
            if (rows < arrivals.fewestRows() || arrivals.mostRows() > 0 && rows > arrivals.mostRows()) {
                // what can't be read isn't counted, and says more than a count
                readAll(place, definition);
                throw new UsageException(file.getFileName() + " has " + rows + " records, and between "
                        + arrivals.fewestRows() + " and "
                        + (arrivals.mostRows() > 0 ? arrivals.mostRows() : "any number") + " are expected");
            }
            return tables.get(0);
        }
    }

    private static void readAll(Place place, TableDefinition table) {
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = place.read(Slice.whole(table))) {
            while (reader.read(batch)) {
                // only whether it can be read
            }
        }
    }

    private void refuse(Path file, Arrival arrival) {
        if (arrivals.refused() == null) {
            return;
        }
        move(file, arrivals.refused());
        try {
            NewFile.whole(
                    arrivals.refused().resolve(file.getFileName() + ".reasons.txt"),
                    // whatever a stranger's names and values hold, it reaches a terminal as text
                    (Yaml.comment(arrival.at() + " " + arrival.file() + " was refused: " + arrival.why()) + "\n")
                            .getBytes(java.nio.charset.StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new PlaceException(arrivals.refused().toString(), "can't be written: " + e.getMessage(), e);
        }
    }

    /** Together with its marker. A file of the same name that is there stays, and the new one gets a number. */
    private void move(Path file, Path to) {
        if (to == null) {
            return;
        }
        try {
            Files.createDirectories(to);
            Path there = to.resolve(file.getFileName());
            for (int i = 2; Files.exists(there); i++) {
                there = to.resolve(file.getFileName() + "." + i);
            }
            Files.move(file, there, StandardCopyOption.ATOMIC_MOVE);
            if (!arrivals.marker().isEmpty()) {
                Files.deleteIfExists(file.resolveSibling(file.getFileName() + arrivals.marker()));
            }
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be moved to " + to + ": " + e.getMessage(), e);
        }
    }
}
