package org.orderlyferry.csvw;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;

/** CSVW's inherited properties: what a schema, a table or a group of tables says holds for each column that is silent. */
public final class CsvwInheritance {

    private static final List<String> INHERITED = List.of("datatype", "default", "null", "required", "separator");

    private CsvwInheritance() {}

    /**
     * A schema whose columns say all that holds for them.
     *
     * @param around the table and then the group that it stands in; what they say of null is said of the whole file
     */
    public static JsonNode resolved(JsonNode schema, JsonNode... around) {
        if (!schema.isObject()) {
            return schema;
        }
        ObjectNode resolved = schema.deepCopy();
        for (JsonNode column : resolved.path("columns")) {
            for (String name : INHERITED) {
                inherit((ObjectNode) column, name, schema);
                for (JsonNode outer : around) {
                    if (!name.equals("null")) {
                        inherit((ObjectNode) column, name, outer);
                    }
                }
            }
        }
        return resolved;
    }

    private static void inherit(ObjectNode column, String name, JsonNode from) {
        if (!column.has(name) && from.has(name)) {
            column.set(name, from.get(name));
        }
    }
}
