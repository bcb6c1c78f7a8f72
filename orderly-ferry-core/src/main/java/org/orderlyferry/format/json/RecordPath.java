package org.orderlyferry.format.json;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/**
 * Where in a file its records are: a JSON Pointer (RFC 6901) to their list, such as {@code /features}, or to an object
 * that has them by their keys.
 *
 * @param names of the objects' fields on the way; none where the file itself is the list
 * @param findings what a person should know where the path was found out
 */
record RecordPath(List<String> names, List<Finding> findings) {

    static final RecordPath ROOT = new RecordPath(List.of(), List.of());
    static final String SETTING = "record";

    /** The path that is told; nothing where none is. */
    static Optional<RecordPath> told(FileSettings settings) {
        return settings.text(SETTING).map(text -> {
            if (text.isEmpty()) {
                return ROOT;
            }
            if (!text.startsWith("/")) {
                throw new UsageException("the setting record is a JSON Pointer such as /features, not " + text);
            }
            List<String> names = new ArrayList<>();
            for (String part : text.substring(1).split("/", -1)) {
                names.add(part.replace("~1", "/").replace("~0", "~"));
            }
            return new RecordPath(names, List.of());
        });
    }

    private static String pointer(String name) {
        return "/" + name.replace("~", "~0").replace("/", "~1");
    }

    /**
     * Where the records are of a file that is one object: its only list of objects. A file of one record looks the same
     * but for its definition, which then names the list as a column.
     *
     * @param columns those that are known of the table; none where nothing is known
     */
    static RecordPath found(FileSource file, String table, List<String> columns) {
        List<String> lists = new ArrayList<>();
        List<String> others = new ArrayList<>();
        try (JsonParser parser = JsonInput.FACTORY.createParser(file.open())) {
            if (parser.nextToken() != JsonToken.START_OBJECT) {
                return ROOT;
            }
            while (parser.nextToken() == JsonToken.FIELD_NAME) {
                String name = parser.currentName();
                boolean list = parser.nextToken() == JsonToken.START_ARRAY && isOfObjects(parser);
                (list ? lists : others).add(name);
                if (!list) {
                    parser.skipChildren();
                }
            }
            if (parser.nextToken() != null) {
                // one object after the other
                return ROOT;
            }
        } catch (com.fasterxml.jackson.core.JsonProcessingException e) {
            // said when the records are read
            return ROOT;
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
        if (lists.isEmpty() || columns.containsAll(lists)) {
            return ROOT;
        }
        TableName name = TableName.of(table);
        String beside = others.isEmpty() ? "" : "; what stands beside it is left out: " + String.join(", ", others);
        return lists.size() == 1
                ? new RecordPath(
                        List.of(lists.get(0)),
                        List.of(Finding.of(
                                FindingCode.FORM_FOUND,
                                name,
                                "its records are those of the list " + pointer(lists.get(0)) + beside)))
                : new RecordPath(
                        List.of(),
                        List.of(Finding.of(
                                FindingCode.FORM_FOUND,
                                name,
                                "is one object with several lists of records; the setting record takes one of them: "
                                        + String.join(
                                                ", ",
                                                lists.stream()
                                                        .map(RecordPath::pointer)
                                                        .toList()))));
    }

    /** Whether a list has nothing but objects, and at least one; goes to its end. */
    private static boolean isOfObjects(JsonParser parser) throws IOException {
        boolean objects = true;
        int count = 0;
        for (JsonToken token = parser.nextToken(); token != JsonToken.END_ARRAY; token = parser.nextToken()) {
            if (token == null) {
                return false;
            }
            objects &= token == JsonToken.START_OBJECT;
            parser.skipChildren();
            count++;
        }
        return objects && count > 0;
    }

    boolean isRoot() {
        return names.isEmpty();
    }

    @Override
    public String toString() {
        StringBuilder text = new StringBuilder();
        names.forEach(n -> text.append(pointer(n)));
        return text.toString();
    }
}
