package org.orderlyferry.exportset;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.tally.ColumnTally;
import org.orderlyferry.tally.ComparisonForm;
import org.orderlyferry.tally.Digest;
import org.orderlyferry.tally.Tally;

/** {@code tallies.json}: what was counted of each table and file when the set was made. */
final class KeptTallies {

    /**
     * One file's.
     *
     * @param file relative to the set
     * @param bytes its size
     */
    record KeptFile(String file, long bytes, long rows, Digest digest) {}

    /** One table's, of all its files together. */
    record Kept(List<KeptFile> files, Tally tally) {}

    /** How values and records are hashed; another way gives other digests. */
    private static final String HASH = "MurmurHash3 and XXH3, 128 bits, 2";

    private final Map<TableName, Kept> tables = new LinkedHashMap<>();
    private boolean known = true;

    void put(TableName table, Kept kept) {
        tables.put(table, kept);
    }

    /** Whether they were taken in the way that is known here; if not, there are none to compare with. */
    boolean areKnown() {
        return known;
    }

    Kept get(TableName table) {
        return tables.get(table);
    }

    ObjectNode write() {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("hash", HASH);
        ArrayNode list = root.putArray("tables");
        tables.forEach((name, kept) -> {
            ObjectNode node = list.addObject();
            node.put("schema", name.schema());
            node.put("table", name.name());
            node.put("rows", kept.tally().rows());
            node.put("digest", kept.tally().digest().toString());
            ArrayNode columns = node.putArray("columns");
            for (ColumnTally column : kept.tally().columns()) {
                ObjectNode inner = columns.addObject();
                inner.put("name", column.name());
                inner.put("form", column.form().name());
                inner.put("nulls", column.nulls());
                inner.put("digest", column.digest().toString());
            }
            ArrayNode files = node.putArray("files");
            kept.files().forEach(f -> files.addObject()
                    .put("file", f.file())
                    .put("bytes", f.bytes())
                    .put("rows", f.rows())
                    .put("digest", f.digest().toString()));
        });
        return root;
    }

    static KeptTallies read(JsonNode root, String set) {
        KeptTallies read = new KeptTallies();
        read.known = root.path("hash").asText().equals(HASH);
        if (!read.known) {
            return read;
        }
        try {
            for (JsonNode node : root.path("tables")) {
                List<ColumnTally> columns = new ArrayList<>();
                for (JsonNode inner : node.path("columns")) {
                    columns.add(new ColumnTally(
                            inner.path("name").asText(),
                            ComparisonForm.valueOf(inner.path("form").asText()),
                            inner.path("nulls").asLong(),
                            Digest.parse(inner.path("digest").asText())));
                }
                Tally tally = new Tally(
                        node.path("rows").asLong(),
                        Digest.parse(node.path("digest").asText()),
                        columns);
                List<KeptFile> files = new ArrayList<>();
                for (JsonNode file : node.path("files")) {
                    files.add(new KeptFile(
                            file.path("file").asText(),
                            file.path("bytes").asLong(),
                            file.path("rows").asLong(),
                            Digest.parse(file.path("digest").asText())));
                }
                read.put(
                        new TableName(
                                node.path("schema").asText(), node.path("table").asText()),
                        new Kept(files, tally));
            }
        } catch (IllegalArgumentException e) {
            throw new BrokenSetException(set, "its " + Layout.TALLIES + " can't be used: " + e.getMessage());
        }
        return read;
    }
}
