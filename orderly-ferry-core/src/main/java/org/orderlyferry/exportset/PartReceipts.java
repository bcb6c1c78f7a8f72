package org.orderlyferry.exportset;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentSkipListMap;
import java.util.stream.Stream;
import org.orderlyferry.io.Abreast;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.PartFile;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.problem.BrokenSetException;

/** A file for each part of a set that is on the disk, for as long as the set grows. */
final class PartReceipts {

    private static final String FOLDER = ".receipts";
    private static final ObjectMapper JSON = new ObjectMapper();

    private final NewFolder folder;

    PartReceipts(NewFolder folder) {
        this.folder = folder;
    }

    /**
     * What is known of a part.
     *
     * @param receipt what was to be kept together with it
     * @param attempt the folder in which its files may still be; empty if they never were in one
     */
    record Kept(TableName table, List<PartFile> files, String receipt, String attempt) {}

    void write(TablePart part, List<PartFile> files, String receipt) {
        try {
            Path file = file(part.task());
            Files.createDirectories(file.getParent());
            NewFile.among(file, JSON.writeValueAsBytes(node(part, files, receipt)));
        } catch (IOException e) {
            throw folder.failed("the receipt of a part can't be written", e);
        }
    }

    /**
     * Writes a receipt, unless there is one.
     *
     * @param attempt the folder in which the files are until they go to where they belong
     * @return false if there is one
     */
    boolean claim(TablePart part, List<PartFile> files, String receipt, String attempt) {
        try {
            Path file = file(part.task());
            Files.createDirectories(file.getParent());
            return NewFile.first(
                    file, JSON.writeValueAsBytes(node(part, files, receipt).put("attempt", attempt)));
        } catch (IOException e) {
            throw folder.failed("the receipt of a part can't be written", e);
        }
    }

    private Path file(int task) {
        return folder.resolve(FOLDER + "/" + task + ".json");
    }

    private static ObjectNode node(TablePart part, List<PartFile> files, String receipt) {
        ObjectNode node = JsonNodeFactory.instance.objectNode();
        node.put("schema", part.table().schema()).put("table", part.table().name());
        ArrayNode list = node.putArray("files");
        files.forEach(f ->
                list.addObject().put("path", f.path()).put("bytes", f.bytes()).put("sha256", f.sha256()));
        return node.put("receipt", receipt);
    }

    /** That of one part, if its files are there. */
    Optional<Kept> one(int task) {
        try {
            Path file = file(task);
            if (!Files.exists(file)) {
                return Optional.empty();
            }
            Kept kept = read(file);
            return isThere(kept) ? Optional.of(kept) : Optional.empty();
        } catch (IOException e) {
            throw folder.failed("the receipt of a part can't be read", e);
        }
    }

    /** Those of all parts whose files are there and have the size that they had. */
    Map<Integer, Kept> all() {
        Map<Integer, Kept> all = new ConcurrentSkipListMap<>();
        Path place = folder.resolve(FOLDER);
        if (!Files.isDirectory(place)) {
            return all;
        }
        try (Stream<Path> files = Files.list(place)) {
            Abreast.each(files.filter(p -> p.toString().endsWith(".json")).toList(), file -> {
                String name = file.getFileName().toString();
                Kept kept = read(file);
                if (isThere(kept)) {
                    all.put(Integer.parseInt(name.substring(0, name.length() - ".json".length())), kept);
                }
            });
        } catch (IOException | NumberFormatException e) {
            throw new BrokenSetException(folder.toString(), "its receipts can't be read: " + e.getMessage());
        }
        return all;
    }

    private Kept read(Path file) throws IOException {
        try {
            JsonNode node = JSON.readTree(Files.readAllBytes(file));
            List<PartFile> parts = new ArrayList<>();
            node.path("files")
                    .forEach(f -> parts.add(new PartFile(
                            f.path("path").asText(),
                            f.path("bytes").asLong(),
                            f.path("sha256").asText())));
            return new Kept(
                    new TableName(
                            node.path("schema").asText(), node.path("table").asText()),
                    parts,
                    node.path("receipt").asText(),
                    node.path("attempt").asText());
        } catch (JsonProcessingException e) {
            throw new BrokenSetException(folder.toString(), "its receipt " + file.getFileName() + " can't be read");
        }
    }

    private boolean isThere(Kept kept) throws IOException {
        if (!kept.attempt().isEmpty()) {
            Attempt.settle(folder, kept.attempt(), kept.files());
        }
        for (PartFile part : kept.files()) {
            Path file = folder.resolve(part.path());
            if (!file.normalize().startsWith(folder.growing()) || !hasSize(file, part.bytes())) {
                return false;
            }
        }
        return true;
    }

    private static boolean hasSize(Path file, long bytes) throws IOException {
        try {
            BasicFileAttributes is = Files.readAttributes(file, BasicFileAttributes.class);
            return is.isRegularFile() && is.size() == bytes;
        } catch (NoSuchFileException e) {
            return false;
        }
    }

    /** Takes them away: the set is about to be whole. */
    void clear() {
        try {
            folder.dropAllBut(FOLDER, java.util.Set.of());
            Files.deleteIfExists(folder.resolve(FOLDER));
        } catch (IOException e) {
            throw folder.failed("the receipts can't be removed", e);
        }
    }
}
