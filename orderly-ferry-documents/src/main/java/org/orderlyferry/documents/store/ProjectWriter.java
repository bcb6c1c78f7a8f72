package org.orderlyferry.documents.store;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.text.InvalidValueException;

/** Writes records as documents, in requests of as many as the store takes. Not safe for use by several threads. */
class ProjectWriter implements RecordWriter {

    /** Bytes of a request, from which on it is sent. */
    private static final int ENOUGH = 2 << 20;

    private static final byte[] BEGIN = "{\"writes\":[".getBytes(java.nio.charset.StandardCharsets.US_ASCII);

    private final Client client;
    private final Limits limits;
    private final String collection;
    private final TableDefinition table;
    private final DocumentIds ids;
    private final Mode mode;
    private final List<String> names;
    private final ByteArrayOutputStream request = new ByteArrayOutputStream();
    private final ByteArrayOutputStream document = new ByteArrayOutputStream();
    /** Where the records of the request came from, by their ids. */
    private final Map<String, Origin> waiting = new LinkedHashMap<>();

    /** How documents are written. */
    enum Mode {
        /** None of these ids is there yet. */
        NEW,
        /** Some may be there, since the part was begun before. */
        AGAIN,
        /** Over those that are there; fields that aren't given stay. */
        OVER
    }

    /**
     * Writes into a collection of ours.
     *
     * @param table as records have it
     * @param fields what each column is called in a document; empty for its id, which isn't among its fields
     */
    ProjectWriter(
            Client client,
            Limits limits,
            String collection,
            TableDefinition table,
            List<String> fields,
            DocumentIds ids,
            Mode mode) {
        this.client = client;
        this.limits = limits;
        this.collection = collection;
        this.table = table;
        this.names = fields;
        this.ids = ids;
        this.mode = mode;
    }

    @Override
    public void write(RecordBatch batch) {
        for (int row = 0; row < batch.rows(); row++) {
            String id = ids.next(batch, row);
            byte[] fields = fields(batch, row, id);
            Origin before = waiting.put(id, batch.origin(row));
            if (before != null) {
                throw twice(batch.origin(row), id);
            }
            request.writeBytes(request.size() == 0 ? BEGIN : new byte[] {','});
            request.writeBytes(fields);
            if (waiting.size() >= limits.mostWrites() || request.size() >= ENOUGH) {
                send();
            }
        }
    }

    /** A write, as the store takes it. */
    private byte[] fields(RecordBatch batch, int row, String id) {
        document.reset();
        int column = 0;
        try (JsonGenerator out = Client.JSON.createGenerator(document)) {
            out.writeStartObject();
            out.writeStringField("id", id);
            if (mode == Mode.NEW) {
                out.writeBooleanField("new", true);
            } else if (mode == Mode.OVER) {
                out.writeBooleanField("over", true);
                out.writeArrayFieldStart("without");
                for (int i = 0; i < names.size(); i++) {
                    if (batch.isNull(row, i)) {
                        out.writeString(names.get(i));
                    }
                }
                out.writeEndArray();
            }
            out.writeObjectFieldStart("fields");
            for (column = 0; column < table.columns().size(); column++) {
                ColumnDefinition definition = table.columns().get(column);
                if (batch.isNull(row, column) || names.get(column).isEmpty()) {
                    continue;
                }
                out.writeFieldName(names.get(column));
                TypedJson.write(out, definition.type(), batch, row, column);
            }
            out.writeEndObject();
            out.writeEndObject();
        } catch (InvalidValueException e) {
            throw bad(batch, row, column, e.getMessage());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        if (id.length() > limits.longestId()) {
            throw bad(batch, row, largest(batch, row), "makes an id of " + id.length() + " characters");
        }
        byte[] bytes = document.toByteArray();
        if (bytes.length > limits.largestDocument()) {
            throw bad(
                    batch,
                    row,
                    largest(batch, row),
                    "is part of a document of " + bytes.length + " bytes; the store takes " + limits.largestDocument());
        }
        return bytes;
    }

    private BadValueException bad(RecordBatch batch, int row, int column, String why) {
        ColumnDefinition definition = table.columns().get(column);
        String shown = definition.type().name().isBinary()
                ? (batch.end(row, column) - batch.start(row, column)) + " bytes"
                : batch.text(row, column);
        return new BadValueException(batch.origin(row), definition.name(), shown, why);
    }

    private static int largest(RecordBatch batch, int row) {
        int largest = 0;
        for (int column = 1; column < batch.columns(); column++) {
            largest = batch.end(row, column) - batch.start(row, column)
                            > batch.end(row, largest) - batch.start(row, largest)
                    ? column
                    : largest;
        }
        return largest;
    }

    private PlaceException twice(Origin origin, String id) {
        return new PlaceException(
                client.shown(),
                "the record at " + origin + " has the key of another one, " + id + "; nothing was changed",
                null);
    }

    private void send() {
        if (waiting.isEmpty()) {
            return;
        }
        request.writeBytes(new byte[] {']', '}'});
        try {
            deliver(request.toByteArray());
        } catch (RefusedRequest e) {
            Origin origin = waiting.get(e.document());
            if (e.status() == 409 && origin != null) {
                throw twice(origin, e.document());
            }
            throw new PlaceException(
                    client.shown(),
                    "refuses " + (origin == null ? "documents of table " + table.name() : "the record at " + origin)
                            + ": " + e.getMessage(),
                    e);
        }
        waiting.clear();
        request.reset();
    }

    /** Brings a request to the store. */
    void deliver(byte[] body) {
        counted(client.write(collection, body));
    }

    /** Hears what became of the documents of a request; one that is sent again has the answer of the first time. */
    void counted(JsonNode answer) {
        if (mode == Mode.NEW && answer.path("same").asLong() > 0) {
            throw new PlaceException(
                    client.shown(),
                    "of table " + table.name() + ", " + answer.path("same").asLong()
                            + " records have keys of documents that are there already, just so; nothing was changed",
                    null);
        }
    }

    @Override
    public void finish() {
        send();
    }

    @Override
    public void close() {
        // what wasn't sent doesn't count
    }
}
