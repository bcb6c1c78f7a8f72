package org.orderlyferry.place;

import java.util.List;
import org.orderlyferry.model.LogicalType;

/**
 * A column of a view that shows what stands at a path inside of documents.
 *
 * @param name what it is called
 * @param document the column that holds the documents, as JSON
 * @param path the names of the fields, from the outermost in
 * @param type as what it is shown; {@link LogicalType#JSON} shows whatever stands there
 * @param wrappers the names of typed wrappers ({@code $numberLong}) that values stand in
 * @param plain whether values stand there without one
 * @param values in how many documents there is a value that isn't null
 */
public record ViewColumn(
        String name,
        String document,
        List<String> path,
        LogicalType type,
        List<String> wrappers,
        boolean plain,
        long values) {
    public ViewColumn {
        path = List.copyOf(path);
        wrappers = List.copyOf(wrappers);
    }

    /** The same by another name. */
    public ViewColumn named(String other) {
        return new ViewColumn(other, document, path, type, wrappers, plain, values);
    }
}
