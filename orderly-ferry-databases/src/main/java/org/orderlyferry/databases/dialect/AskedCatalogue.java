package org.orderlyferry.databases.dialect;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** A catalogue whose views are asked for some tables one by one, and for all of them where more are wanted. */
@API(status = API.Status.INTERNAL)
public abstract class AskedCatalogue implements Catalogue {

    /** So many tables are asked for one by one; then all at once, which takes as many questions as one. */
    private static final int FEW = 8;

    private final CatalogueQuery query;
    private final AskedDefinitions.Tables tables;
    private final DefaultSchema schema;
    private Map<TableName, TableDefinition> together = Map.of();
    private int asked;

    /**
     * Over a connection.
     *
     * @param schema the one in which a name without a schema is looked up
     */
    protected AskedCatalogue(Connection connection, AskedDefinitions.Tables tables, String schema) {
        this.query = new CatalogueQuery(connection);
        this.tables = tables;
        this.schema = new DefaultSchema(schema);
    }

    /** What is to be asked, anew. */
    protected abstract AskedDefinitions definitions();

    protected final CatalogueQuery query() {
        return query;
    }

    /** A table's name, from its schema's and its own. */
    protected final TableName name(String of, String table) {
        return schema.name(of, table);
    }

    /** The schema that a table is in. */
    protected final String schema(TableName table) {
        return schema.of(table);
    }

    @Override
    public final List<TableName> tables() throws SQLException {
        List<TableName> all = new ArrayList<>();
        query.each(tables.all() + " ORDER BY 1, 2", row -> all.add(name(row.getString(1), row.getString(2))));
        return all;
    }

    @Override
    public final boolean has(TableName table) throws SQLException {
        return query.any(tables.all() + tables.one(), schema(table), table.name());
    }

    @Override
    public final TableDefinition define(TableName table) throws SQLException {
        if (together.isEmpty() && ++asked > FEW) {
            together = definitions().all();
        }
        // one that has been made since is asked for alone
        return together.containsKey(table) ? together.get(table) : definitions().one(table);
    }
}
