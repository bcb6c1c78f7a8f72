package org.orderlyferry.reconcile;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.work.TallyLedger;
import org.orderlyferry.work.TallyWork;

/**
 * What a comparison keeps of both sides until it has come to its end: tallies of slices and, where single records are looked
 * for, their digests.
 */
final class KeptTallies implements AutoCloseable {

    private static final ObjectMapper JSON = new ObjectMapper();
    private static final List<String> SIDES = List.of("source", "target", "before");

    private final Path folder;
    private final Optional<EntryStore> entries;
    private final List<TallyLedger> ledgers = new ArrayList<>();
    private final ObjectNode sizes;

    /**
     * Opens a folder, or begins it.
     *
     * @param withEntries whether single records are looked for
     */
    KeptTallies(Path folder, boolean withEntries) {
        this.folder = folder;
        if (Files.exists(folder) && !Files.isDirectory(folder)) {
            throw new UsageException(folder + " is a file; what is kept needs a folder");
        }
        try {
            Files.createDirectories(folder);
            sizes = read(folder.resolve("sizes.json"));
        } catch (IOException e) {
            throw failed(e);
        }
        entries = withEntries ? Optional.of(EntryStore.kept(folder.resolve("digests"))) : Optional.empty();
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(folder.toString(), "nothing can be kept there: " + e.getMessage(), e);
    }

    /** What the tables were taken for; with another number all is read again, and nothing else is lost. */
    private static ObjectNode read(Path file) throws IOException {
        if (Files.exists(file)) {
            try {
                JsonNode node = JSON.readTree(Files.readAllBytes(file));
                if (node instanceof ObjectNode known) {
                    return known;
                }
            } catch (JsonProcessingException e) {
                return JSON.createObjectNode();
            }
        }
        return JSON.createObjectNode();
    }

    Optional<EntryStore> entries() {
        return entries;
    }

    /**
     * How many records a table was taken for when the comparison was begun, since entries are sorted by that.
     *
     * @param now what it is taken for now
     */
    long rows(TableName table, long now) {
        JsonNode known = sizes.path(table.toString());
        if (known.isIntegralNumber() && known.canConvertToLong()) {
            return known.asLong();
        }
        sizes.put(table.toString(), now);
        return now;
    }

    /** Has both sides, and what the target had before, keep their tallies. */
    void of(List<TallyWork> sides) {
        try {
            Files.write(folder.resolve("sizes.json"), JSON.writeValueAsBytes(sizes));
        } catch (IOException e) {
            throw failed(e);
        }
        for (int i = 0; i < sides.size(); i++) {
            TallyLedger ledger = TallyLedger.open(folder.resolve(SIDES.get(i) + "-tallies.jsonl"));
            ledgers.add(ledger);
            sides.get(i).ledger(ledger);
        }
    }

    /** That it went on, and since when: who has written in between has made two moments of it. */
    List<Finding> findings() {
        boolean goesOn = ledgers.stream().anyMatch(TallyLedger::isGoingOn);
        return goesOn
                ? List.of(
                        Finding.ofAll(
                                FindingCode.RESUMED,
                                "a comparison that was begun at "
                                        + ledgers.get(0).began() + " has gone on: "
                                        + ledgers.stream()
                                                .mapToInt(TallyLedger::trusted)
                                                .sum() + " of "
                                        + ledgers.stream()
                                                .mapToInt(TallyLedger::all)
                                                .sum()
                                        + " slices were tallied already. What anybody has written since counts in the others alone"))
                : List.of();
    }

    /** All is compared: nothing of it is trusted again. */
    void done() {
        ledgers.forEach(TallyLedger::remove);
        entries.ifPresent(EntryStore::close);
        try {
            Files.deleteIfExists(folder.resolve("digests"));
            Files.deleteIfExists(folder.resolve("sizes.json"));
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    public void close() {
        ledgers.forEach(TallyLedger::close);
        entries.ifPresent(EntryStore::close);
    }
}
