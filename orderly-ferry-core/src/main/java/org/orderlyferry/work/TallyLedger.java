package org.orderlyferry.work;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.apiguardian.api.API;
import org.orderlyferry.io.AppendedFile;
import org.orderlyferry.io.WholeLines;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/**
 * Keeps what was tallied of a place, slice by slice, so that a comparison that was stopped or killed goes on with the same
 * slices: JSON lines (RFC 8259), only ever added to. A last line that isn't whole was being written, and counts as not
 * written. Safe for use by several threads.
 */
@API(status = API.Status.INTERNAL)
public final class TallyLedger implements AutoCloseable {

    private static final ObjectMapper JSON = new ObjectMapper();

    private final Path file;
    private final List<SliceTask> tasks = new ArrayList<>();
    private final Map<Integer, Kept> results = new TreeMap<>();
    private AppendedFile out;
    private boolean planned;
    private boolean goingOn;
    private int trusted;
    private String of = "";
    private Instant began = Instant.now();

    /**
     * What is kept of a slice.
     *
     * @param seen what each witness has kept of it besides
     */
    record Kept(SliceResult result, List<String> seen) {
        Kept {
            seen = List.copyOf(seen);
        }
    }

    private TallyLedger(Path file) {
        this.file = file;
    }

    /**
     * Opens a ledger, or begins it.
     *
     * @throws MalformedFileException if it is none
     */
    public static TallyLedger open(Path file) {
        TallyLedger ledger = new TallyLedger(file);
        try {
            Path folder = file.toAbsolutePath().getParent();
            Files.createDirectories(folder);
            ledger.out = AppendedFile.open(file);
            if (!ledger.out.isAlone()) {
                ledger.out.close();
                throw new UsageException(file + " is being written by another comparison");
            }
            long whole = ledger.takeAll();
            ledger.goingOn = ledger.planned;
            // without its whole plan there is nothing to go on with
            if (!ledger.planned) {
                whole = 0;
                ledger.tasks.clear();
                ledger.results.clear();
                ledger.began = Instant.now();
            }
            ledger.out.keep(whole);
            return ledger;
        } catch (IOException e) {
            throw ledger.failed(e);
        }
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(file.toString(), "can't be kept: " + e.getMessage(), e);
    }

    private long takeAll() throws IOException {
        try {
            return WholeLines.each(Files.readAllBytes(file), this::take);
        } catch (MalformedFileException e) {
            out.close();
            throw e;
        }
    }

    private void take(String line, int number) {
        try {
            JsonNode node = JSON.readTree(line);
            if (node.has("of")) {
                of = node.path("of").asText();
                began = Instant.parse(node.path("at").asText());
            } else if (node.has("task")) {
                tasks.add(WorkJson.read(node.path("task").toString(), SliceTask.class, "a slice"));
            } else if (node.has("planned")) {
                planned = node.path("planned").asInt() == tasks.size();
            } else {
                keep(WorkJson.read(line, Kept.class, "a slice's tally"));
            }
        } catch (JsonProcessingException | java.time.DateTimeException | UsageException e) {
            throw new MalformedFileException(
                    new Origin("", file.toString(), number, true), "it isn't a line that a comparison has written");
        }
    }

    private void keep(Kept kept) {
        int number = kept.result().part().task();
        if (number < 0 || number >= tasks.size()) {
            throw new UsageException("there is no slice " + number);
        }
        results.put(number, kept);
    }

    /** Whether there is something to go on with. */
    public boolean isGoingOn() {
        return goingOn;
    }

    /** When what is in it was begun. */
    public Instant began() {
        return began;
    }

    /** How many slices needn't be read again. */
    public synchronized int trusted() {
        return trusted;
    }

    synchronized void trust(int slices) {
        trusted = slices;
    }

    /** How many there are. */
    public synchronized int all() {
        return tasks.size();
    }

    /**
     * The slices that were cut before.
     *
     * @param wanted what is to be tallied, in a form that is another one for anything else
     * @throws UsageException if they are of something else
     */
    synchronized Optional<List<SliceTask>> tasks(String wanted) {
        if (!planned) {
            return Optional.empty();
        }
        if (!of.equals(wanted)) {
            throw new UsageException(file
                    + " keeps another comparison, of other tables, columns or places, or of a file that has changed since; give this one"
                    + " a folder of its own, or remove it");
        }
        return Optional.of(List.copyOf(tasks));
    }

    synchronized Map<Integer, Kept> results() {
        return new TreeMap<>(results);
    }

    synchronized void planned(String wanted, List<SliceTask> all) {
        of = wanted;
        tasks.addAll(all);
        StringBuilder lines = new StringBuilder();
        lines.append(WorkJson.write(Map.of("of", wanted, "at", began.toString())))
                .append('\n');
        all.forEach(t -> lines.append("{\"task\":").append(WorkJson.write(t)).append("}\n"));
        lines.append("{\"planned\":").append(all.size()).append("}\n");
        write(lines.toString());
        planned = true;
    }

    synchronized void done(SliceResult result, List<String> seen) {
        Kept kept = new Kept(result, seen);
        results.put(result.part().task(), kept);
        write(WorkJson.write(kept) + "\n");
    }

    private void write(String text) {
        try {
            out.add(text.getBytes(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw failed(e);
        }
    }

    /** Removes it, since all is done: the next comparison trusts nothing that was counted before. */
    public void remove() {
        try {
            close();
            Files.deleteIfExists(file);
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    public void close() {
        try {
            out.close();
        } catch (IOException e) {
            throw failed(e);
        }
    }
}
