package org.orderlyferry.format.json;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Arrays;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.Utf8;

/** Reads records from objects; fields go by their names, and a field that is missing is null. */
final class JsonReader implements RecordReader {

    private static final ObjectMapper MAPPER = new ObjectMapper(JsonInput.FACTORY);
    private static final byte[] NULL = "null".getBytes(java.nio.charset.StandardCharsets.US_ASCII);
    /** A field that the file has and nobody asked for. */
    private static final int UNWANTED = -1;

    private final JsonInput input;
    private final String source;
    private final TableDefinition table;
    private final Map<String, Integer> places = new HashMap<>();
    private final byte[][] values;
    private final boolean[] seen;
    private final int keyPlace;
    private final boolean wrapped;
    private final Rejects rejects;

    /**
     * A reader.
     *
     * @param whole the table with all columns of the file
     * @param columns those to give
     * @param keyName the column that takes a record's key, where records stand by their keys
     * @param wrapped whether typed wrappers are taken for what they stand for
     */
    JsonReader(
            JsonInput input,
            String source,
            TableDefinition whole,
            List<String> columns,
            String keyName,
            boolean wrapped,
            Rejects rejects) {
        this.input = input;
        this.source = source;
        this.table = whole.withColumns(columns);
        this.wrapped = wrapped;
        this.rejects = rejects;
        whole.columnNames().forEach(n -> places.put(n, UNWANTED));
        for (int i = 0; i < columns.size(); i++) {
            places.put(columns.get(i), i);
        }
        this.keyPlace = input.shape() == Shape.KEYED ? places.getOrDefault(keyName, UNWANTED) : UNWANTED;
        this.values = new byte[columns.size()][];
        this.seen = new boolean[columns.size()];
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(values.length, table.name().toString(), source, true);
        while (!batch.isFull() && input.nextRecord()) {
            long line = input.line();
            try {
                Arrays.fill(values, null);
                Arrays.fill(seen, false);
                FerryException wrong = record(line);
                if (wrong != null) {
                    rejects.reject(wrong);
                    continue;
                }
                for (byte[] value : values) {
                    if (value == null) {
                        batch.addNull();
                    } else {
                        batch.add(value);
                    }
                }
                batch.endRow(line);
            } catch (IOException e) {
                throw input.failed(e);
            }
        }
        return batch.rows() > 0;
    }

    /** Takes the record's fields; what is wrong with it is given back when its end is reached, so that others follow. */
    private FerryException record(long line) throws IOException {
        FerryException wrong = null;
        if (keyPlace >= 0) {
            seen[keyPlace] = true;
            try {
                values[keyPlace] =
                        utf8(input.key(), table.columns().get(keyPlace).name(), line);
            } catch (BadValueException e) {
                wrong = e;
            }
        }
        while (input.next() != JsonToken.END_OBJECT) {
            String name = input.parser().currentName();
            JsonToken token = input.next();
            Integer place = places.get(name);
            if (place == null) {
                wrong = wrong != null
                        ? wrong
                        : new MalformedFileException(
                                input.origin(line), "the record has a field " + name + " that isn't in the definition");
                input.skip();
            } else if (place == UNWANTED) {
                input.skip();
            } else if (seen[place]) {
                wrong = new MalformedFileException(input.origin(line), "the field " + name + " stands there twice");
                input.skip();
            } else {
                seen[place] = true;
                try {
                    values[place] = value(token, table.columns().get(place), line);
                } catch (BadValueException e) {
                    wrong = e;
                }
            }
        }
        return wrong;
    }

    private byte[] value(JsonToken token, ColumnDefinition column, long line) throws IOException {
        TypeName type = column.type().name();
        boolean json = type == TypeName.JSON || type == TypeName.ARRAY;
        return switch (token) {
            case VALUE_NULL -> json ? NULL.clone() : null;
            case VALUE_STRING -> {
                if (json) {
                    yield raw();
                }
                yield type.isBinary() ? decoded(input.text(), column, line) : utf8(input.text(), column.name(), line);
            }
            case VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT, VALUE_TRUE, VALUE_FALSE ->
                utf8(input.text(), column.name(), line);
            default -> structure(column, json, line);
        };
    }

    private byte[] structure(ColumnDefinition column, boolean json, long line) throws IOException {
        byte[] raw = raw();
        if (wrapped && !json && raw.length > 2 && raw[1] == '"' && raw[2] == '$') {
            JsonNode node = MAPPER.readTree(raw);
            Optional<Wrapper> wrapper = Wrapper.of(node);
            if (wrapper.isPresent()) {
                return wrapper.get().type().name().isBinary()
                                && column.type().name().isBinary()
                        ? decoded(wrapper.get().text(), column, line)
                        : utf8(wrapper.get().text(), column.name(), line);
            }
        }
        return raw;
    }

    /** The text of whatever begins here, with numbers digit by digit as they stand. */
    private byte[] raw() throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (JsonGenerator generator = JsonInput.FACTORY.createGenerator(bytes)) {
            int depth = 0;
            do {
                JsonToken token = input.parser().currentToken();
                if (token.isNumeric()) {
                    generator.writeNumber(input.parser().getText());
                } else {
                    generator.copyCurrentEvent(input.parser());
                }
                depth += token.isStructStart() ? 1 : token.isStructEnd() ? -1 : 0;
            } while (depth > 0 && input.next() != null);
        }
        return bytes.toByteArray();
    }

    private byte[] decoded(String base64, ColumnDefinition column, long line) {
        try {
            return Base64.getDecoder().decode(base64);
        } catch (IllegalArgumentException e) {
            throw new BadValueException(
                    input.origin(line),
                    column.name(),
                    base64,
                    "isn't base64, as binary values are written in a text file");
        }
    }

    private byte[] utf8(String text, String column, long line) {
        byte[] bytes = Utf8.bytes(text);
        if (bytes == null) {
            throw new BadValueException(
                    input.origin(line),
                    column,
                    text,
                    "holds half of a surrogate pair, which no encoding of Unicode has");
        }
        return bytes;
    }

    @Override
    public void close() {
        input.close();
    }
}
