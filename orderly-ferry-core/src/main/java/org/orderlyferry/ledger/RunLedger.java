package org.orderlyferry.ledger;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.apiguardian.api.API;
import org.orderlyferry.io.AppendedFile;
import org.orderlyferry.io.WholeLines;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/**
 * The journal of a run: JSON lines (RFC 8259, one object a line), only ever added to, each on the disk before what it tells
 * of is relied upon. Each line's checksum covers the lines before it, so that none can be changed or taken out unseen. A
 * last line that isn't whole was being written when the process was killed, and counts as not written. Not safe for use by
 * several threads.
 */
@API(status = API.Status.INTERNAL)
public final class RunLedger implements AutoCloseable {

    /** The file that it is, in a run's folder. */
    public static final String NAME = "ledger.jsonl";

    private static final ObjectMapper JSON = new ObjectMapper();
    private static final int SHOWN = 16;
    private static final String SUM = ",\"sum\":\"";

    private final Path file;
    private final List<LedgerLine> lines = new ArrayList<>();
    private AppendedFile out;
    private String last = "";

    private RunLedger(Path file) {
        this.file = file;
    }

    /**
     * Opens a ledger to be read only.
     *
     * @throws MalformedFileException if somebody has changed it
     */
    public static RunLedger read(Path folder) {
        RunLedger ledger = new RunLedger(folder.resolve(NAME));
        ledger.load();
        return ledger;
    }

    /** Opens a ledger, or begins it; what is left of a line that was being written is cut off. */
    public static RunLedger open(Path folder) {
        RunLedger ledger = new RunLedger(folder.resolve(NAME));
        try {
            Files.createDirectories(folder);
            long whole = Files.exists(ledger.file) ? ledger.load() : 0;
            ledger.out = AppendedFile.open(ledger.file);
            ledger.out.keep(whole);
            return ledger;
        } catch (IOException e) {
            throw ledger.failed("can't be opened", e);
        }
    }

    private PlaceException failed(String what, IOException e) {
        return new PlaceException(file.toString(), what + ": " + e.getMessage(), e);
    }

    /** Reads all whole lines; gives how many bytes they take. */
    private long load() {
        byte[] bytes;
        try {
            bytes = Files.readAllBytes(file);
        } catch (IOException e) {
            throw failed("can't be read", e);
        }
        return WholeLines.each(bytes, this::take);
    }

    private void take(String text, int number) {
        try {
            // byte by byte: what means the same isn't the same
            int end = text.lastIndexOf(SUM);
            String sum = text.substring(end + SUM.length(), text.length() - 2);
            if (!text.equals(withSum(text.substring(0, end) + "}", sum(text.substring(0, end) + "}")))) {
                throw changed(number, "its checksum isn't that of its content");
            }
            JsonNode node = JSON.readTree(text);
            Map<String, String> facts = new TreeMap<>();
            node.path("facts")
                    .properties()
                    .forEach(f -> facts.put(f.getKey(), f.getValue().asText()));
            lines.add(new LedgerLine(
                    Instant.parse(node.path("at").asText()),
                    LedgerLine.Step.valueOf(name(node.path("step"))),
                    LedgerLine.State.valueOf(name(node.path("state"))),
                    facts));
            last = sum;
        } catch (JsonProcessingException
                | ClassCastException
                | NullPointerException
                | IndexOutOfBoundsException
                | IllegalArgumentException
                | DateTimeParseException e) {
            throw changed(number, "it isn't one that a run has written");
        }
    }

    /** An object with its checksum as its last member. */
    private static String withSum(String json, String sum) {
        return json.substring(0, json.length() - 1) + SUM + sum + "\"}";
    }

    private static String name(JsonNode node) {
        return node.asText().toUpperCase(Locale.ROOT).replace('-', '_');
    }

    private MalformedFileException changed(int number, String why) {
        return new MalformedFileException(
                new Origin("", file.toString(), number, true), "the line was changed after it was written: " + why);
    }

    private String sum(String json) {
        try {
            byte[] hash =
                    MessageDigest.getInstance("SHA-256").digest((last + "\n" + json).getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(hash).substring(0, SHOWN);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    /** Writes a line; it is on the disk when this returns. */
    public void note(LedgerLine.Step step, LedgerLine.State state, Map<String, String> facts) {
        LedgerLine line = new LedgerLine(Instant.now(), step, state, facts);
        ObjectNode node = JSON.createObjectNode();
        node.put("at", line.at().toString()).put("step", step.word()).put("state", state.word());
        ObjectNode told = node.putObject("facts");
        new TreeMap<>(facts).forEach(told::put);
        try {
            String sum = sum(JSON.writeValueAsString(node));
            node.put("sum", sum);
            out.add((JSON.writeValueAsString(node) + "\n").getBytes(StandardCharsets.UTF_8));
            lines.add(line);
            last = sum;
        } catch (IOException e) {
            throw failed("can't be written", e);
        }
    }

    /** All lines, the oldest first. */
    public List<LedgerLine> lines() {
        return List.copyOf(lines);
    }

    /** The last line about a step in a state. */
    public Optional<LedgerLine> last(LedgerLine.Step step, LedgerLine.State state) {
        for (int i = lines.size() - 1; i >= 0; i--) {
            if (lines.get(i).what() == step && lines.get(i).state() == state) {
                return Optional.of(lines.get(i));
            }
        }
        return Optional.empty();
    }

    /** Whether there is a line about a step in a state. */
    public boolean has(LedgerLine.Step step, LedgerLine.State state) {
        return last(step, state).isPresent();
    }

    @Override
    public void close() {
        if (out != null) {
            try {
                out.close();
            } catch (IOException e) {
                throw failed("can't be closed", e);
            }
        }
    }
}
