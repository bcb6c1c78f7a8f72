package org.orderlyferry.file;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.csvw.CellRule;
import org.orderlyferry.csvw.CsvwDialects;
import org.orderlyferry.csvw.CsvwInheritance;
import org.orderlyferry.csvw.CsvwNames;
import org.orderlyferry.csvw.CsvwSchemaReader;
import org.orderlyferry.csvw.CsvwStyles;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.problem.UsageException;

/**
 * A CSVW description of a file: the one given, or the one that stands beside it where CSVW looks
 * ({@code name-metadata.json}, then {@code csv-metadata.json}). It may be of one table, of a group of tables, or a table's schema alone.
 */
final class Description {

    private static final String ENDING = "-metadata.json";
    private static final String FOLDER = "csv-metadata.json";
    private static final ObjectMapper JSON = new ObjectMapper();

    private final FileSource file;
    private final List<TableDefinition> tables = new ArrayList<>();
    private final Map<TableName, Map<String, ValueStyle>> styles = new LinkedHashMap<>();
    private final Map<TableName, Map<String, CellRule>> rules = new LinkedHashMap<>();
    private final Map<TableName, List<List<String>>> headings = new LinkedHashMap<>();
    private FileSettings settings = FileSettings.NONE;
    private Optional<String> beside = Optional.empty();

    private Description(FileSource file) {
        this.file = file;
    }

    static Description none(FileSource file) {
        return new Description(file);
    }

    /** What was given, if it is a schema of another standard: an XML Schema, or a JSON Schema. */
    static Optional<FileSource> schema(Optional<Path> given) {
        if (given.isEmpty()) {
            return Optional.empty();
        }
        try {
            FileSource source = DiskFile.of(given.get());
            if (source.name().endsWith(".xsd")) {
                return Optional.of(source);
            }
            try (InputStream in = source.open()) {
                JsonNode root = JSON.readTree(in);
                boolean schema = root.path("$schema").asText("").contains("json-schema.org") || root.has("properties");
                return schema ? Optional.of(source) : Optional.empty();
            }
        } catch (IOException e) {
            throw new UsageException("the definitions " + given.get() + " can't be read: " + e.getMessage(), e);
        }
    }

    static Description of(FileSource file, Optional<Path> given) {
        Description description = new Description(file);
        Optional<FileSource> source = Optional.empty();
        if (given.isPresent()) {
            try {
                source = Optional.of(DiskFile.of(given.get()));
            } catch (IOException e) {
                throw new UsageException("the definitions " + given.get() + " can't be read: " + e.getMessage(), e);
            }
        } else {
            String shown = WrittenPath.read(file.shown()).getFileName().toString();
            source = file.beside(shown + ENDING).or(() -> file.beside(file.name() + ENDING));
        }
        source.ifPresent(s -> description.take(s, true));
        if (given.isEmpty() && description.isThere()) {
            description.beside = source.map(FileSource::name);
        }
        if (source.isEmpty()) {
            // where CSVW looks next; it may be of other files alone
            file.beside(FOLDER).ifPresent(s -> description.take(s, false));
            description.beside = Optional.of(FOLDER).filter(f -> description.isThere());
        }
        return description;
    }

    private void take(FileSource source, boolean ofThisFile) {
        try {
            read(source, ofThisFile);
        } catch (BrokenSetException e) {
            // it is no set that is broken here
            throw new UsageException("the definitions " + source.shown() + " can't be used: " + e.what(), e);
        }
    }

    private void read(FileSource source, boolean ofThisFile) {
        JsonNode root = json(source);
        List<JsonNode> own = new ArrayList<>();
        if (root.has("tables") || !ofThisFile) {
            for (JsonNode node : root.has("tables") ? root.get("tables") : List.of(root)) {
                String name = fileName(node);
                if (name.equals(file.name()) || !name.isEmpty() && file.shown().endsWith(name)) {
                    own.add(node);
                }
            }
            if (own.isEmpty() && ofThisFile) {
                throw new UsageException("the definitions " + source.shown() + " describe no file " + file.name());
            }
            if (own.isEmpty()) {
                return;
            }
        } else {
            own.add(root);
        }
        CsvwSchemaReader reader = new CsvwSchemaReader(file.shown(), reference -> target(source, root, reference));
        for (JsonNode node : own) {
            JsonNode schema = schema(source, node, root);
            TableDefinition table = reader.read(schema, file.baseName());
            tables.add(table);
            styles.put(table.name(), CsvwStyles.read(schema, table));
            rules.put(table.name(), CsvwStyles.rules(schema, table));
            headings.put(table.name(), CsvwSchemaReader.headings(schema));
        }
        JsonNode first = own.get(0);
        JsonNode dialect = first.has("dialect") ? first.get("dialect") : root.path("dialect");
        if (dialect.isTextual()) {
            String name = CsvwNames.path(dialect.asText());
            dialect = json(source.beside(name)
                    .orElseThrow(() -> new BrokenSetException(file.shown(), "the dialect " + name + " is missing")));
        }
        JsonNode nulls = first.has("null") ? first.get("null") : root.path("null");
        settings = CsvwDialects.settings(dialect, nulls);
    }

    private static String fileName(JsonNode table) {
        String url = CsvwNames.path(table.path("url").asText());
        String bare = url.contains("#") ? url.substring(0, url.indexOf('#')) : url;
        return bare.substring(bare.lastIndexOf('/') + 1);
    }

    /** The group's table that a reference names by its address, or by that of its schema. */
    private Optional<CsvwSchemaReader.Target> target(FileSource source, JsonNode root, JsonNode reference) {
        for (JsonNode node : root.path("tables")) {
            JsonNode schema = node.path("tableSchema");
            String address =
                    schema.isTextual() ? schema.asText() : schema.path("@id").asText("");
            boolean meant = reference.has("resource")
                    ? reference.get("resource").equals(node.get("url"))
                    : !address.isEmpty()
                            && address.equals(reference.path("schemaReference").asText());
            if (meant) {
                String name = fileName(node);
                int point = name.lastIndexOf('.');
                return Optional.of(new CsvwSchemaReader.Target(
                        point > 0 ? name.substring(0, point) : name, schema(source, node, root)));
            }
        }
        return Optional.empty();
    }

    private JsonNode schema(FileSource source, JsonNode table, JsonNode group) {
        JsonNode schema = table.path("tableSchema");
        if (schema.isTextual()) {
            String name = CsvwNames.path(schema.asText());
            schema = json(source.beside(name)
                    .orElseThrow(() -> new BrokenSetException(file.shown(), "the schema " + name + " is missing")));
        } else if (table.has("columns")) {
            schema = table;
        }
        return CsvwInheritance.resolved(schema, table, group);
    }

    private JsonNode json(FileSource source) {
        try (InputStream in = source.open()) {
            JsonNode node = JSON.readTree(in);
            if (!node.isObject()) {
                throw new BrokenSetException(file.shown(), "the file " + source.shown() + " holds no JSON object");
            }
            return node;
        } catch (IOException e) {
            throw new BrokenSetException(file.shown(), "the file " + source.shown() + " isn't JSON: " + e.getMessage());
        }
    }

    boolean isThere() {
        return !tables.isEmpty();
    }

    /** The description's name, if nobody named it: it merely lay beside the file. */
    Optional<String> beside() {
        return beside;
    }

    List<TableDefinition> tables() {
        return tables;
    }

    Map<String, ValueStyle> styles(TableName table) {
        return styles.getOrDefault(table, Map.of());
    }

    Map<String, CellRule> rules(TableName table) {
        return rules.getOrDefault(table, Map.of());
    }

    /** What the file may have as the heading of each of a table's columns, in their order. */
    List<List<String>> headings(TableName table) {
        return headings.getOrDefault(table, List.of());
    }

    FileSettings settings() {
        return settings;
    }

    /** How it lets values be read, as a text that is the same for as long as that is. */
    String asRead() {
        return styles + " " + rules;
    }
}
