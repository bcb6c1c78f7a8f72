package org.orderlyferry.format.json;

import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Format;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.PieceOfFile;
import org.orderlyferry.format.Setting;
import org.orderlyferry.format.SideFile;
import org.orderlyferry.format.SingleTableWriter;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.apart.Apart;

/** JSON: which of its shapes a file is in, reading finds out. */
abstract class JsonFormat implements FileFormat {

    static final String SCHEMA = ".schema.json";
    private static final String KEY = "keyName";
    private static final String WRAPPERS = "wrappers";
    private static final String APART = "apart";
    private static final ObjectMapper MAPPER = new ObjectMapper(JsonInput.FACTORY);

    private final Shape shape;

    JsonFormat(Shape shape) {
        this.shape = shape;
    }

    /** A file of a single object is of any shape. */
    @Override
    public boolean isLike(FileFormat other) {
        return other instanceof JsonFormat;
    }

    @Override
    public Keeps keeps() {
        return new Keeps(
                "a CSVW description and a JSON Schema (2020-12) beside the file",
                "null is null and empty text is \"\"; of a column of JSON, null is a field that isn't there",
                "numbers and truth values as such, with all their digits; all else as texts; binary values in base64;"
                        + " columns of JSON as what they are; or with wrappers=true, what JSON has no values for in"
                        + " objects such as {\"$numberLong\": \"5\"}",
                List.of("a program that reads numbers as binary floating point loses digits beyond the 15th; use"
                        + " wrappers=true for it"));
    }

    @Override
    public List<Setting> settings() {
        return List.of(
                new Setting(
                        "shape",
                        shape.name().toLowerCase(java.util.Locale.ROOT),
                        "array, lines or keyed: an array"
                                + " of objects, an object a line, or one object with records by their keys."),
                new Setting(
                        RecordPath.SETTING,
                        "found",
                        "Where the records are, when read, as a JSON Pointer (RFC 6901): /features; nothing for the file"
                                + " itself."),
                new Setting(
                        KEY,
                        "key",
                        "The column that takes records' keys, where they stand by them; with apart, the field that is one."),
                new Setting(
                        APART,
                        "false",
                        "Whether objects inside of records become columns by their paths, such as address.city, and lists"
                                + " tables of their own with a key back, when read."),
                new Setting(
                        WRAPPERS,
                        "true when read, false when written",
                        "Whether {\"$numberLong\": \"5\"} and the" + " like stand for values."));
    }

    @Override
    public List<Outline> outline(FileSource file, FileSettings settings) {
        Optional<FileSource> schema = file.beside(file.baseName() + SCHEMA);
        if (schema.isPresent()) {
            return List.of(new Outline(
                    new JsonSchemaReader(schema.get().shown()).read(tree(schema.get()), file.baseName()),
                    Outline.Source.DEFINITIONS));
        }
        TableName name = TableName.of(file.baseName());
        if (settings.flag(APART, false)) {
            return apart(file, settings);
        }
        Map<String, FieldKinds> fields = new LinkedHashMap<>();
        RecordPath path = path(file, settings, List.of());
        try (JsonInput input = JsonInput.open(file, name.toString(), shape(file, settings, Set.of()), path)) {
            if (input.shape() == Shape.KEYED) {
                fields.computeIfAbsent(settings.text(KEY, "key"), n -> new FieldKinds())
                        .add(JsonToken.VALUE_STRING);
            }
            while (input.nextRecord()) {
                fields(input, fields, settings.flag(WRAPPERS, true));
            }
        }
        if (fields.isEmpty()) {
            throw new UsageException(file.shown() + " has no records, so its columns aren't known");
        }
        return List.of(outline(name, fields, path.findings()));
    }

    /** How they stand there: as told, or as found. */
    private Shape shape(FileSource file, FileSettings settings, Set<String> json) {
        return settings.text("shape").isPresent() ? Shape.of(settings, Shape.LINES) : Shape.found(file, shape, json);
    }

    /** Where the records are: as told, or as found in a file that isn't written as lines. */
    private RecordPath path(FileSource file, FileSettings settings, List<String> columns) {
        return RecordPath.told(settings)
                .orElseGet(() -> shape == Shape.ARRAY && settings.text("shape").isEmpty()
                        ? RecordPath.found(file, file.baseName(), columns)
                        : RecordPath.ROOT);
    }

    /** A table for the records, and one for each list in them. */
    private List<Outline> apart(FileSource file, FileSettings settings) {
        RecordPath path = path(file, settings, List.of());
        Map<String, Map<String, FieldKinds>> tables = new LinkedHashMap<>();
        List<Finding> findings = new ArrayList<>(path.findings());
        try (JsonInput input = JsonInput.open(file, file.baseName(), shape(file, settings, Set.of()), path)) {
            Apart<JsonNode> apart = apart(input, settings);
            long number = 0;
            long nameless = 0;
            while (input.nextRecord()) {
                JsonNode record = ApartReader.MAPPER.readTree(input.parser());
                nameless += apart.hasKey(record, input.key()) ? 0 : 1;
                for (Apart.Part<JsonNode> part : apart.parts(record, input.key(), ++number)) {
                    Map<String, FieldKinds> fields = tables.computeIfAbsent(part.list(), l -> new LinkedHashMap<>());
                    part.fields().forEach(f -> {
                        FieldKinds kinds = fields.computeIfAbsent(f.getKey(), n -> new FieldKinds());
                        Wrapper.of(f.getValue())
                                .ifPresentOrElse(
                                        w -> kinds.add(w.type()),
                                        () -> kinds.add(f.getValue().asToken()));
                    });
                }
            }
            if (nameless > 0 && tables.size() > 1) {
                findings.add(Finding.of(
                        FindingCode.FORM_FOUND,
                        TableName.of(file.baseName()),
                        String.format(
                                java.util.Locale.ROOT,
                                "%,d of %,d records have no field %s; their lists refer to their numbers, which the column"
                                        + " %s holds",
                                nameless,
                                number,
                                apart.keyName(),
                                Apart.NUMBER)));
            }
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
        if (tables.isEmpty()) {
            throw new UsageException(file.shown() + " has no records, so its columns aren't known");
        }
        List<Outline> outlines = new ArrayList<>();
        tables.forEach((list, fields) -> outlines.add(outline(
                TableName.of(list.isEmpty() ? file.baseName() : file.baseName() + Apart.LIST + list),
                fields,
                list.isEmpty() ? findings : List.of())));
        return outlines;
    }

    private static Apart<JsonNode> apart(JsonInput input, FileSettings settings) {
        boolean keyed = input.shape() == Shape.KEYED;
        return new Apart<>(new JsonNesting(), settings.text(KEY, keyed ? "key" : "id"), keyed);
    }

    private static Outline outline(TableName name, Map<String, FieldKinds> fields, List<Finding> told) {
        TableDefinition.Builder table = TableDefinition.named(name);
        List<Finding> findings = new ArrayList<>(told);
        fields.forEach((field, kinds) -> {
            table.column(field.isEmpty() ? " " : field, kinds.type());
            if (kinds.isMixed()) {
                findings.add(new Finding(FindingCode.VALUE_ODD, name, field, "holds " + kinds));
            }
        });
        return new Outline(table.build(), Outline.Source.KINDS, findings);
    }

    private static void fields(JsonInput input, Map<String, FieldKinds> fields, boolean wrapped) {
        try {
            while (input.next() != JsonToken.END_OBJECT) {
                FieldKinds kinds = fields.computeIfAbsent(input.parser().currentName(), n -> new FieldKinds());
                JsonToken token = input.next();
                if (wrapped && token == JsonToken.START_OBJECT) {
                    JsonNode node = MAPPER.readTree(input.parser());
                    Optional<Wrapper> wrapper = Wrapper.of(node);
                    if (wrapper.isPresent()) {
                        kinds.add(wrapper.get().type());
                        continue;
                    }
                } else {
                    input.skip();
                }
                kinds.add(token);
            }
        } catch (IOException e) {
            throw input.failed(e);
        }
    }

    private static JsonNode tree(FileSource file) {
        try (InputStream in = file.open()) {
            return MAPPER.readTree(in);
        } catch (IOException e) {
            throw new UsageException("the schema " + file.shown() + " can't be read: " + e.getMessage(), e);
        }
    }

    @Override
    public RecordReader read(
            FileSource file, TableDefinition table, List<String> columns, FileSettings settings, Rejects rejects) {
        boolean takenApart = settings.flag(APART, false);
        RecordPath path = takenApart ? path(file, settings, List.of()) : path(file, settings, table.columnNames());
        Set<String> json = takenApart
                ? Set.of()
                : table.columns().stream()
                        .filter(c -> c.type().name() == TypeName.JSON)
                        .map(ColumnDefinition::name)
                        .collect(Collectors.toSet());
        JsonInput input = JsonInput.open(file, table.name().toString(), shape(file, settings, json), path);
        if (takenApart) {
            String base = file.baseName() + Apart.LIST;
            String name = table.name().name();
            return new ApartReader(
                    input,
                    file.shown(),
                    apart(input, settings),
                    name.startsWith(base) ? name.substring(base.length()) : "",
                    table,
                    columns,
                    rejects);
        }
        String key = settings.text(KEY).orElseGet(() -> key(table).orElse("key"));
        return new JsonReader(input, file.shown(), table, columns, key, settings.flag(WRAPPERS, true), rejects);
    }

    /** Objects one after the other in UTF-8, on the disk; all else is one value. */
    @Override
    public List<FilePiece> cut(FileSource file, FileSettings settings, long bytes) {
        boolean lines = !settings.flag(APART, false)
                && file.seekable().isPresent()
                && path(file, settings, List.of()).isRoot()
                && shape(file, settings, Set.of()) == Shape.LINES;
        return lines ? ObjectCuts.of(file, bytes) : List.of(FilePiece.ALL);
    }

    @Override
    public RecordReader readPiece(
            FileSource file,
            FilePiece piece,
            TableDefinition table,
            List<String> columns,
            FileSettings settings,
            Rejects rejects) {
        return read(
                new PieceOfFile(file, piece),
                table,
                columns,
                settings.with("shape", "lines").with(RecordPath.SETTING, ""),
                rejects);
    }

    /** The one column of a table's key. */
    private static Optional<String> key(TableDefinition table) {
        return table.primaryKey()
                .map(k -> k.columns())
                .filter(c -> c.size() == 1)
                .map(c -> c.get(0));
    }

    @Override
    public TablesWriter write(OutputStream out, String shown, List<TableDefinition> tables, FileSettings settings) {
        Shape wanted = Shape.of(settings, shape);
        return new SingleTableWriter(
                new Format() {
                    @Override
                    public String name() {
                        return JsonFormat.this.name();
                    }

                    @Override
                    public RecordWriter writer(OutputStream to, TableDefinition table) {
                        return new JsonWriter(
                                to, table, wanted, keyIndex(table, wanted, settings), settings.flag(WRAPPERS, false));
                    }
                },
                out,
                shown,
                tables,
                true);
    }

    private static int keyIndex(TableDefinition table, Shape shape, FileSettings settings) {
        if (shape != Shape.KEYED) {
            return -1;
        }
        String name = settings.text(KEY)
                .or(() -> key(table))
                .orElseThrow(() -> new UsageException("table " + table.name()
                        + " has no key of one column by which its records could stand; give keyName"));
        int index = table.columnNames().indexOf(name);
        if (index < 0
                || table.columns().get(index).type().name().isBinary()
                || table.columns().get(index).nullable()) {
            throw new UsageException("table " + table.name() + " has no column " + name
                    + " that is never null and no binary, by which its records could stand");
        }
        return index;
    }

    @Override
    public List<SideFile> sideFiles(String baseName, List<TableDefinition> tables, FileSettings settings) {
        return List.of(new SideFile(
                baseName + SCHEMA,
                JsonSchemaWriter.write(tables.get(0), Shape.of(settings, shape), settings.flag(WRAPPERS, false))));
    }
}
