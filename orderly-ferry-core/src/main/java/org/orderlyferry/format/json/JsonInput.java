package org.orderlyferry.format.json;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.exc.StreamConstraintsException;
import java.io.IOException;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/** A file of JSON, token by token, set on one record's object after the other. */
final class JsonInput implements AutoCloseable {

    /** Deeper nesting than people make; a file that has more is made to do harm. */
    private static final int DEEPEST = 500;

    static final JsonFactory FACTORY = JsonFactory.builder()
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxStringLength(Integer.MAX_VALUE)
                    .maxNestingDepth(DEEPEST)
                    .maxNumberLength(10_000)
                    .build())
            .build();

    private final String shown;
    private final String table;
    private final long linesBefore;
    private final JsonParser parser;
    private final Shape shape;
    private String key;
    private boolean ended;
    /** Whether something stands around the records. */
    private boolean inside;

    private JsonInput(FileSource file, String table, Shape shape) throws IOException {
        this.shown = file.shown();
        this.linesBefore = file.firstLine() - 1;
        this.table = table;
        this.parser = FACTORY.createParser(file.open());
        this.shape = shape;
    }

    /** Opens a file and goes to where its records begin. */
    static JsonInput open(FileSource file, String table, Shape shape, RecordPath path) {
        if (!path.isRoot()) {
            return inside(file, table, path);
        }
        JsonInput input = start(file, table, shape);
        if (shape != Shape.LINES) {
            JsonToken first = input.next();
            JsonToken wanted = shape == Shape.ARRAY ? JsonToken.START_ARRAY : JsonToken.START_OBJECT;
            if (first != wanted) {
                input.close();
                throw new MalformedFileException(
                        new Origin(table, file.shown(), 1, true),
                        "begins with "
                                + (first == null
                                        ? "nothing at all"
                                        : "something else than " + (shape == Shape.ARRAY ? "an array" : "an object")));
            }
        }
        return input;
    }

    /** Opens a file whose records are further inside. */
    private static JsonInput inside(FileSource file, String table, RecordPath path) {
        JsonInput input = start(file, table, Shape.ARRAY);
        try {
            JsonToken token = input.next();
            for (String name : path.names()) {
                if (token != JsonToken.START_OBJECT || !input.toField(name)) {
                    throw new MalformedFileException(
                            new Origin(table, file.shown(), 1, true),
                            "has nothing at " + path + ", where its records are to be");
                }
                token = input.next();
            }
            if (token == JsonToken.START_OBJECT) {
                input.close();
                return keyed(file, table, path);
            }
            if (token != JsonToken.START_ARRAY) {
                throw new MalformedFileException(
                        new Origin(table, file.shown(), 1, true), "has no list of records at " + path);
            }
            input.inside = true;
            return input;
        } catch (RuntimeException e) {
            input.close();
            throw e;
        }
    }

    private static JsonInput keyed(FileSource file, String table, RecordPath path) {
        JsonInput input = start(file, table, Shape.KEYED);
        input.next();
        for (String name : path.names()) {
            input.toField(name);
            input.next();
        }
        input.inside = true;
        return input;
    }

    private static JsonInput start(FileSource file, String table, Shape shape) {
        try {
            return new JsonInput(file, table, shape);
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
    }

    /** Goes to a field of the object that has begun. */
    private boolean toField(String name) {
        for (JsonToken token = next(); token == JsonToken.FIELD_NAME; token = next()) {
            if (text().equals(name)) {
                return true;
            }
            next();
            skip();
        }
        return false;
    }

    Shape shape() {
        return shape;
    }

    /**
     * Goes to the next record's object.
     *
     * @return false behind the last
     */
    boolean nextRecord() {
        if (ended) {
            return false;
        }
        JsonToken token = next();
        if (shape == Shape.KEYED && token == JsonToken.FIELD_NAME) {
            key = text();
            token = next();
        }
        boolean end = shape == Shape.LINES
                ? token == null
                : token == (shape == Shape.ARRAY ? JsonToken.END_ARRAY : JsonToken.END_OBJECT);
        if (end) {
            ended = true;
            if (inside) {
                // the rest has to be JSON too: a file that is cut short isn't whole
                while (next() != null) {
                    skip();
                }
            } else if (shape != Shape.LINES && next() != null) {
                throw malformed("something follows behind the last record");
            }
            return false;
        }
        if (token == null) {
            throw malformed("the file ends before its records do");
        }
        if (token != JsonToken.START_OBJECT) {
            throw malformed("a record is an object, and here is something else");
        }
        return true;
    }

    /** The key of the record, where records stand by their keys. */
    String key() {
        return key;
    }

    JsonParser parser() {
        return parser;
    }

    JsonToken next() {
        try {
            return parser.nextToken();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    String text() {
        try {
            return parser.getText();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    void skip() {
        try {
            parser.skipChildren();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    long line() {
        return linesBefore + parser.currentTokenLocation().getLineNr();
    }

    Origin origin(long line) {
        return new Origin(table, shown, line, true);
    }

    private MalformedFileException malformed(String what) {
        return new MalformedFileException(origin(line()), what);
    }

    RuntimeException failed(IOException e) {
        if (e instanceof StreamConstraintsException) {
            return malformed("isn't read on: " + e.getMessage().replaceFirst("\\(`StreamReadConstraints.*", ""));
        }
        if (e instanceof JsonProcessingException json) {
            JsonLocation at = json.getLocation();
            return new MalformedFileException(
                    origin(at == null ? line() : linesBefore + at.getLineNr()),
                    "isn't JSON" + (at == null ? "" : " at character " + at.getColumnNr() + " of the line") + ": "
                            + json.getOriginalMessage());
        }
        return new PlaceException(shown, "can't be read: " + e.getMessage(), e);
    }

    @Override
    public void close() {
        try {
            parser.close();
        } catch (IOException e) {
            throw new PlaceException(shown, "can't be closed: " + e.getMessage(), e);
        }
    }
}
