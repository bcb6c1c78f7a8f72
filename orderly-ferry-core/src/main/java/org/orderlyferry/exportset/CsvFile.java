package org.orderlyferry.exportset;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.CsvFormat;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.CheckedReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/**
 * One delimited file as a place with one table. Its definitions are a CSVW description: the one given, or the one that
 * stands beside it where CSVW looks first ({@code name.csv-metadata.json}). Without one, every column is text.
 */
final class CsvFile implements Place {

    private static final String DESCRIPTION = "-metadata.json";

    private final Path file;
    private final CsvFormat format;
    private final TableDefinition table;
    private final boolean described;

    CsvFile(Path file, OpenOptions options) {
        this.file = file;
        Path beside = file.resolveSibling(file.getFileName() + DESCRIPTION);
        Optional<Path> description =
                options.definitions().or(() -> Files.isRegularFile(beside) ? Optional.of(beside) : Optional.empty());
        this.described = description.isPresent();
        if (described) {
            JsonNode root = JsonFile.read(description.get(), description.get().toString(), file.toString());
            JsonNode own = root.has("tables") ? ownTable(root) : root;
            JsonNode schema = own.path("tableSchema");
            if (schema.isTextual()) {
                Path schemaFile = description.get().resolveSibling(CsvwNames.path(schema.asText()));
                schema = JsonFile.read(schemaFile, schema.asText(), file.toString());
            } else if (root.has("columns")) {
                schema = root;
            }
            this.format = new CsvFormat(
                    root.has("dialect") || own.has("dialect")
                            ? CsvwDialects.read(
                                    own.has("dialect") ? own.get("dialect") : root.get("dialect"),
                                    own.path("null").asText(root.path("null").asText("")),
                                    file.toString())
                            : options.dialect());
            this.table = new CsvwSchemaReader(file.toString()).read(schema, baseName());
        } else {
            this.format = new CsvFormat(options.dialect());
            this.table = undescribed(options.dialect());
        }
    }

    private JsonNode ownTable(JsonNode group) {
        String name = file.getFileName().toString();
        for (JsonNode node : group.get("tables")) {
            String url = CsvwNames.path(node.path("url").asText());
            if (url.equals(name) || url.endsWith("/" + name)) {
                return node;
            }
        }
        throw new UsageException("the definitions describe no file " + name);
    }

    private String baseName() {
        String name = file.getFileName().toString();
        int point = name.lastIndexOf('.');
        return point > 0 ? name.substring(0, point) : name;
    }

    private TableDefinition undescribed(CsvDialect dialect) {
        if (!dialect.header()) {
            throw new UsageException(
                    file + " has no header and no definitions, so its columns have no names; give a CSVW"
                            + " description with --definitions");
        }
        TableDefinition.Builder builder = TableDefinition.named(baseName());
        try (InputStream in = Files.newInputStream(file)) {
            format.header(in, shown()).forEach(name -> builder.column(name.isEmpty() ? " " : name, LogicalType.CLOB));
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be read: " + e.getMessage(), e);
        }
        return builder.build();
    }

    private String shown() {
        return file.toString();
    }

    @Override
    public String address() {
        return file.toString();
    }

    @Override
    public String system() {
        return "CSV file" + (described ? "" : " without definitions");
    }

    @Override
    public List<TableName> tables() {
        return List.of(table.name());
    }

    @Override
    public TableDefinition define(TableName name) {
        if (!name.equals(table.name())) {
            throw new UsageException("there is no table " + name + " in " + file + "; it is taken as " + table.name());
        }
        return table;
    }

    @Override
    public long count(TableName name) {
        long rows = 0;
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = unchecked(Slice.whole(define(name)))) {
            while (reader.read(batch)) {
                rows += batch.rows();
            }
        }
        return rows;
    }

    @Override
    public OptionalLong bytes(TableName name) {
        try {
            return OptionalLong.of(Files.size(file));
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return List.of();
    }

    @Override
    public void check(TableDefinition table) {
        unchecked(Slice.whole(table)).close();
    }

    @Override
    public RecordReader read(Slice slice) {
        return new CheckedReader(unchecked(slice));
    }

    private RecordReader unchecked(Slice slice) {
        TableDefinition whole = define(slice.table());
        try {
            return format.reader(Files.newInputStream(file), shown(), whole, slice.columns());
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    @Override
    public void close() {
        // nothing is held open between reads
    }
}
