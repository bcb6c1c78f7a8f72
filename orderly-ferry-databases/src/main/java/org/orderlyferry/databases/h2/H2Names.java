package org.orderlyferry.databases.h2;

import java.sql.SQLException;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.model.TableName;

/**
 * Tables' names in a session: those of its own schema go without one, since that is how statements find them.
 *
 * @param current the session's schema, PUBLIC unless its URL says otherwise
 */
record H2Names(String current) {

    static H2Names of(CatalogueQuery query) throws SQLException {
        String[] schema = {""};
        query.each("SELECT SCHEMA()", row -> schema[0] = row.getString(1));
        return new H2Names(schema[0]);
    }

    TableName name(String schema, String table) {
        return new TableName(schema.equals(current) ? "" : schema, table);
    }

    String schema(TableName table) {
        return table.schema().isEmpty() ? current : table.schema();
    }
}
