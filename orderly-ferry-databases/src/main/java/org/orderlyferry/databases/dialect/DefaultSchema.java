package org.orderlyferry.databases.dialect;

import org.apiguardian.api.API;
import org.orderlyferry.model.TableName;

/**
 * The schema in which a name without one is looked up, so that tables of it are called by their names alone.
 *
 * @param schema its name
 */
@API(status = API.Status.INTERNAL)
public record DefaultSchema(String schema) {

    /** What a table is called, from its schema's name and its own. */
    public TableName name(String of, String table) {
        return new TableName(of.equals(schema) ? "" : of, table);
    }

    /** The schema that a table is in. */
    public String of(TableName table) {
        return table.schema().isEmpty() ? schema : table.schema();
    }
}
