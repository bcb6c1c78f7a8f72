package org.orderlyferry.format.json;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.util.Locale;
import java.util.Set;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/** How a file's records stand in it. */
enum Shape {
    /** One array of objects. */
    ARRAY,
    /** One object after the other, each on a line of its own when written. */
    LINES,
    /** One object that has each record's key as a name and the record as its value. */
    KEYED;

    /** The one that is told, or another one. */
    static Shape of(FileSettings settings, Shape otherwise) {
        String text = settings.text("shape", otherwise.name().toLowerCase(Locale.ROOT));
        for (Shape shape : values()) {
            if (shape.name().equalsIgnoreCase(text)) {
                return shape;
            }
        }
        throw new UsageException("the shape is array, lines or keyed, not '" + text + "'");
    }

    /**
     * That of a file as it is. An object that stands alone, and has nothing but objects as values, holds records by their
     * keys, but where it can be told to be a record: where files of its kind hold records one after the other, where its
     * values are such as others write as numbers, and where the fields are known.
     *
     * @param usual what files of this kind are
     * @param json the columns of JSON that are known of the table; none where nothing is known
     */
    static Shape found(FileSource file, Shape usual, Set<String> json) {
        try (JsonParser parser = JsonInput.FACTORY.createParser(file.open())) {
            JsonToken first = parser.nextToken();
            if (first == JsonToken.START_ARRAY) {
                return ARRAY;
            }
            if (first != JsonToken.START_OBJECT || usual == LINES) {
                return LINES;
            }
            boolean known = true;
            int objects = 0;
            while (parser.nextToken() == JsonToken.FIELD_NAME) {
                known &= json.contains(parser.currentName());
                if (parser.nextToken() != JsonToken.START_OBJECT || isWrapper(parser)) {
                    return LINES;
                }
                objects++;
            }
            return objects > 0 && !known && parser.nextToken() == null ? KEYED : LINES;
        } catch (JsonProcessingException e) {
            // said when the records are read
            return LINES;
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
    }

    /** Goes to the end of the object that has begun, unless it is one that stands for a value. */
    private static boolean isWrapper(JsonParser parser) throws IOException {
        if (parser.nextToken() == JsonToken.END_OBJECT) {
            return false;
        }
        if (parser.currentName().startsWith(Wrapper.MARK)) {
            return true;
        }
        do {
            parser.nextToken();
            parser.skipChildren();
        } while (parser.nextToken() == JsonToken.FIELD_NAME);
        return false;
    }
}
