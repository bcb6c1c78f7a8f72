package org.orderlyferry.exportset;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.orderlyferry.csvw.Annotations;
import org.orderlyferry.csvw.CsvwNames;
import org.orderlyferry.csvw.CsvwSchemaWriter;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.SideFile;
import org.orderlyferry.io.Compression;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.PartFile;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.tally.Tally;

/**
 * Puts a set together out of parts that are there already: adds definitions, tallies and checksums. Immutable.
 */
final class SetAssembly {

    private static final ObjectMapper JSON =
            JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

    private final Path place;
    private final FileFormat format;
    private final FileSettings settings;
    private final Compression compression;
    private final String system;
    private final Map<TableName, TableDefinition> tables = new LinkedHashMap<>();
    private final Map<TableName, String> fileNames = new LinkedHashMap<>();
    private final FileNames names = new FileNames();

    SetAssembly(
            Path place,
            FileFormat format,
            FileSettings settings,
            Compression compression,
            String system,
            List<TableDefinition> tables) {
        this.place = place;
        this.format = format;
        if (settings.namesFiles()) {
            throw new UsageException(
                    "a set's files are read back as they were written, so none goes through a style sheet");
        }
        this.settings = settings;
        this.compression = compression;
        this.system = system;
        for (TableDefinition table : tables) {
            this.tables.put(table.name(), table);
            fileNames.put(table.name(), names.of(table.name()));
        }
    }

    /**
     * A part that is there.
     *
     * @param files that with the records first
     */
    record Part(TablePart part, List<PartFile> files, Tally tally) {}

    FileFormat format() {
        return format;
    }

    FileSettings settings() {
        return settings;
    }

    Compression compression() {
        return compression;
    }

    TableDefinition table(TableName name) {
        return tables.get(name);
    }

    /** Where a part's records are to stand, relative to the set: always the same for the same tables. */
    String path(TablePart part) {
        String base = fileNames.get(part.table());
        String name = part.isWhole() ? base : names.part(base, part.number());
        return Layout.DATA + "/" + name + "." + format.endings().get(0) + compression.ending();
    }

    /** Adds definitions, tallies and checksums, and puts the set in its place. */
    void complete(NewFolder folder, List<Part> parts, List<LeftBehind> leftBehind) {
        Map<TableName, List<Part>> byTable = new LinkedHashMap<>();
        for (TableName table : tables.keySet()) {
            List<Part> own =
                    parts.stream().filter(p -> p.part().table().equals(table)).toList();
            if (!own.isEmpty()) {
                byTable.put(table, own);
            }
        }
        Map<String, String> payloadSums = new TreeMap<>();
        long payloadBytes = 0;
        for (Part part : parts) {
            for (PartFile file : part.files()) {
                payloadSums.put(file.path(), file.sha256());
                payloadBytes += file.bytes();
            }
        }
        try {
            // a bag has a payload folder, also where nothing is in it (RFC 8493, 2.1)
            Files.createDirectories(folder.growing().resolve(Layout.DATA));
            Map<String, String> tagSums = new TreeMap<>();
            Tags tags = new Tags(folder, tagSums);
            tags.add(Layout.DEFINITIONS, JSON.writeValueAsBytes(definitions(byTable, leftBehind)));
            Map<TableName, String> schemaFiles = new LinkedHashMap<>();
            byTable.keySet().forEach(table -> schemaFiles.put(table, fileNames.get(table) + ".json"));
            CsvwSchemaWriter schemas = new CsvwSchemaWriter(schemaFiles);
            for (TableName name : byTable.keySet()) {
                TableDefinition table = tables.get(name);
                tags.add(
                        Layout.TABLE_DEFINITIONS + "/" + schemaFiles.get(name),
                        JSON.writeValueAsBytes(schemas.write(table)));
                for (SideFile side : format.sideFiles(fileNames.get(name), List.of(table), settings)) {
                    tags.add(Layout.TABLE_DEFINITIONS + "/" + side.name(), side.content());
                }
            }
            tags.add(Layout.TALLIES, JSON.writeValueAsBytes(tallies(byTable).write()));
            tags.add(Layout.MANIFEST, manifest(payloadSums));
            tags.add(Layout.BAG_INFO, bagInfo(payloadBytes, payloadSums.size()));
            Tags last = new Tags(folder, new TreeMap<>());
            last.add(Layout.TAG_MANIFEST, manifest(tagSums));
            // Last: a folder without it is no bag, so a set that was cut short never looks complete.
            last.add(
                    Layout.BAGIT,
                    "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n".getBytes(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw failed(e);
        }
        Optional<Bundle> bundle = Bundle.ofName(place);
        if (bundle.isPresent()) {
            bundle.get().pack(folder.growing(), place);
            folder.packed();
        } else {
            folder.takePlace();
        }
    }

    /** Files that say something of the set, with their checksums. */
    private record Tags(NewFolder folder, Map<String, String> sums) {

        void add(String name, byte[] content) throws IOException {
            BagFile file = new BagFile(folder.resolve(name));
            try (file) {
                file.write(content);
            }
            sums.put(name, file.sha256());
        }
    }

    private static byte[] manifest(Map<String, String> sums) {
        StringBuilder lines = new StringBuilder();
        sums.forEach((file, sum) -> lines.append(sum)
                .append("  ")
                .append(file.replace("%", "%25").replace("\n", "%0A").replace("\r", "%0D"))
                .append('\n'));
        return lines.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static byte[] bagInfo(long payloadBytes, int payloadFiles) {
        String text = "Bagging-Date: " + LocalDate.now(ZoneOffset.UTC) + "\n"
                + "Bag-Software-Agent: Orderly Ferry\n"
                + "Payload-Oxum: " + payloadBytes + "." + payloadFiles + "\n"
                + Layout.VERSION_LABEL + ": " + Layout.VERSION + "\n";
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static KeptTallies tallies(Map<TableName, List<Part>> byTable) {
        KeptTallies tallies = new KeptTallies();
        byTable.forEach((table, parts) -> {
            List<KeptTallies.KeptFile> files = new ArrayList<>();
            Tally sum = null;
            for (Part part : parts) {
                PartFile file = part.files().get(0);
                files.add(new KeptTallies.KeptFile(
                        file.path(),
                        file.bytes(),
                        part.tally().rows(),
                        part.tally().digest()));
                sum = sum == null ? part.tally() : sum.plus(part.tally());
            }
            tallies.put(table, new KeptTallies.Kept(files, sum));
        });
        return tallies;
    }

    private ObjectNode definitions(Map<TableName, List<Part>> byTable, List<LeftBehind> leftBehind) {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("@context", "http://www.w3.org/ns/csvw");
        root.put("@type", "TableGroup");
        SetFormat.write(format, settings, root);
        ArrayNode list = root.putArray("tables");
        byTable.forEach((table, parts) -> {
            for (Part part : parts) {
                ObjectNode node = list.addObject();
                node.put("url", CsvwNames.url(part.files().get(0).path()));
                node.put("tableSchema", CsvwNames.url(Layout.TABLE_DEFINITIONS + "/" + fileNames.get(table) + ".json"));
            }
        });
        root.put(Annotations.SYSTEM, system);
        root.put(Annotations.QUOTED_IS_VALUE, true);
        ArrayNode left = root.putArray(Annotations.LEFT_BEHIND);
        for (LeftBehind thing : leftBehind) {
            ObjectNode node = left.addObject()
                    .put(Annotations.KIND, thing.kind())
                    .put(Annotations.NAME, thing.name())
                    .put(Annotations.REASON, thing.reason());
            thing.table().ifPresent(t -> node.put(Annotations.TABLE, t.text()));
        }
        return root;
    }

    PlaceException failed(IOException e) {
        return new PlaceException(
                place.toString(), "can't be written: " + e.getMessage() + "; nothing was left there", e);
    }
}
