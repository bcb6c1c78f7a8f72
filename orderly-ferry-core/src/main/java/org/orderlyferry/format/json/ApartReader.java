package org.orderlyferry.format.json;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Base64;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.apart.Apart;

/** Reads the records of one table out of records that are taken apart. One of the file's records is in memory at a time. */
final class ApartReader implements RecordReader {

    static final ObjectMapper MAPPER = JsonMapper.builder(JsonInput.FACTORY)
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .build();

    private final JsonInput input;
    private final String source;
    private final Apart<JsonNode> apart;
    private final String list;
    private final TableDefinition whole;
    private final TableDefinition table;
    private final Rejects rejects;
    private final Deque<Apart.Part<JsonNode>> waiting = new ArrayDeque<>();
    private long line;
    private long number;

    /**
     * A reader.
     *
     * @param list the path of the list whose records are wanted; empty for the records themselves
     */
    ApartReader(
            JsonInput input,
            String source,
            Apart<JsonNode> apart,
            String list,
            TableDefinition whole,
            List<String> columns,
            Rejects rejects) {
        this.input = input;
        this.source = source;
        this.apart = apart;
        this.list = list;
        this.whole = whole;
        this.table = whole.withColumns(columns);
        this.rejects = rejects;
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(table.columns().size(), table.name().toString(), source, true);
        while (!batch.isFull() && next()) {
            try {
                add(batch, waiting.remove());
            } catch (BadValueException | MalformedFileException e) {
                batch.dropRow();
                rejects.reject(e);
            }
        }
        return batch.rows() > 0;
    }

    private boolean next() {
        while (waiting.isEmpty()) {
            if (!input.nextRecord()) {
                return false;
            }
            line = input.line();
            try {
                JsonNode record = MAPPER.readTree(input.parser());
                for (Apart.Part<JsonNode> part : apart.parts(record, input.key(), ++number)) {
                    if (part.list().equals(list)) {
                        waiting.add(part);
                    }
                }
            } catch (IOException e) {
                throw input.failed(e);
            }
        }
        return true;
    }

    private void add(RecordBatch batch, Apart.Part<JsonNode> part) {
        JsonNode[] values = new JsonNode[table.columns().size()];
        for (Map.Entry<String, JsonNode> field : part.fields()) {
            int place = table.columnNames().indexOf(field.getKey());
            if (place >= 0) {
                if (values[place] != null) {
                    throw new MalformedFileException(
                            input.origin(line), "the field " + field.getKey() + " stands there twice");
                }
                values[place] = field.getValue();
            } else if (whole.column(field.getKey()).isEmpty()) {
                throw new MalformedFileException(
                        input.origin(line),
                        "the record has a field " + field.getKey() + " that isn't in the definition");
            }
        }
        for (int i = 0; i < values.length; i++) {
            value(batch, table.columns().get(i), values[i]);
        }
        batch.endRow(line);
    }

    private void value(RecordBatch batch, ColumnDefinition column, JsonNode value) {
        TypeName type = column.type().name();
        boolean json = type == TypeName.JSON || type == TypeName.ARRAY;
        if (value == null || value.isNull() && !json) {
            batch.addNull();
            return;
        }
        Optional<Wrapper> wrapper = json ? Optional.empty() : Wrapper.of(value);
        String text = wrapper.map(Wrapper::text).orElseGet(() -> text(value, json));
        if (!type.isBinary()) {
            if (!batch.add(text)) {
                throw new BadValueException(
                        input.origin(line),
                        column.name(),
                        text,
                        "holds half of a surrogate pair, which no encoding of Unicode has");
            }
            return;
        }
        try {
            batch.add(Base64.getDecoder().decode(text));
        } catch (IllegalArgumentException e) {
            throw new BadValueException(
                    input.origin(line),
                    column.name(),
                    text,
                    "isn't base64, as binary values are written in a text file");
        }
    }

    private static String text(JsonNode value, boolean json) {
        if (json || value.isContainerNode()) {
            try {
                return MAPPER.writeValueAsString(value);
            } catch (JsonProcessingException e) {
                throw new IllegalStateException("a tree can always be written", e);
            }
        }
        // a number with an exponent is written out when it is checked, within bounds
        return value.isBigDecimal() ? value.decimalValue().toString() : value.asText();
    }

    @Override
    public void close() {
        input.close();
    }
}
