package org.orderlyferry.databases.dialect;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.LogicalType;

/** How a system's SQL reaches into a column of JSON. Immutable, for use by any number of threads. */
public interface JsonPaths {

    /**
     * What stands at a path, as an expression; its value is NULL where nothing does, or JSON's null.
     *
     * @param column the column in quotes
     * @param path the names of the fields, from the outermost in; any text
     * @param type as what it is shown, after {@link #typed}
     * @param quoted whether it stands there as one of JSON's strings; else as a number or a truth value
     * @return empty where the system has no words for the path
     */
    Optional<String> scalar(String column, List<String> path, LogicalType type, boolean quoted);

    /** Whatever stands at a path, as JSON; likewise. */
    Optional<String> json(String column, List<String> path);

    /** The value of a scalar's expression as a value of its type. */
    String typed(String scalar, LogicalType type);

    /**
     * A path as {@code $."place"."hall"}, where a backslash stands before what would end a name.
     */
    static String dollarPath(List<String> path) {
        StringBuilder text = new StringBuilder("$");
        for (String name : path) {
            text.append(".\"")
                    .append(name.replace("\\", "\\\\").replace("\"", "\\\""))
                    .append('"');
        }
        return DefinitionSql.string(text.toString());
    }
}
