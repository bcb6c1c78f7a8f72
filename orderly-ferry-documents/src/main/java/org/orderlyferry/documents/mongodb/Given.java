package org.orderlyferry.documents.mongodb;

import java.util.List;
import java.util.Objects;
import org.bson.BsonDocument;
import org.bson.BsonValue;
import org.jspecify.annotations.Nullable;

/**
 * What a merge gives of each document.
 *
 * @param whole whether it is all of it
 * @param fields else the paths of the fields that it gives; one that has no value goes
 * @param lists the paths of lists that it gives where it has any elements of them; others stay
 */
record Given(boolean whole, List<String> fields, List<String> lists) {

    /** A document that was there with what is given of it; fields that aren't given stay. */
    BsonDocument over(@Nullable BsonDocument old, BsonDocument given) {
        if (old == null || whole) {
            return given;
        }
        BsonDocument document = old.clone();
        fields.forEach(f -> put(document, path(f), at(given, f)));
        lists.stream().filter(l -> at(given, l) != null).forEach(l -> put(document, path(l), at(given, l)));
        return document;
    }

    /** Whether a document that was there has all that is given of it. */
    boolean isIn(BsonDocument old, BsonDocument given) {
        return whole
                ? old.equals(given)
                : fields.stream().allMatch(f -> Objects.equals(at(old, f), at(given, f)))
                        && lists.stream()
                                .allMatch(l -> at(given, l) == null || Objects.equals(at(old, l), at(given, l)));
    }

    private static String[] path(String text) {
        return text.split("\\.", -1);
    }

    /** What stands at a path; null for nothing. */
    private static @Nullable BsonValue at(BsonDocument document, String path) {
        BsonValue value = document;
        for (String name : path(path)) {
            value = value != null && value.isDocument() ? value.asDocument().get(name) : null;
        }
        return value;
    }

    /** Puts a value at a path, or takes away what is there. */
    static void put(BsonDocument document, String[] path, @Nullable BsonValue value) {
        BsonDocument at = document;
        for (int i = 0; i < path.length - 1; i++) {
            BsonValue inner = at.get(path[i]);
            if (inner == null || !inner.isDocument()) {
                if (value == null) {
                    return;
                }
                inner = new BsonDocument();
                at.put(path[i], inner);
            }
            at = inner.asDocument();
        }
        String name = path[path.length - 1];
        if (value == null) {
            at.remove(name);
        } else {
            at.put(name, value);
        }
    }
}
