package org.orderlyferry.databases.sqlserver;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.orderlyferry.databases.dialect.AskedCatalogue;
import org.orderlyferry.databases.dialect.AskedDefinitions;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/** SQL Server's own catalogue: its views in the schema {@code sys}. */
final class SqlServerCatalogue extends AskedCatalogue {

    private final String schema;

    SqlServerCatalogue(Connection connection, String schema) {
        super(connection, SqlServerDefinitions.ALL, schema);
        this.schema = schema;
    }

    @Override
    protected AskedDefinitions definitions() {
        return new SqlServerDefinitions(query(), schema);
    }

    @Override
    public List<TableName> referrers(Set<TableName> to) throws SQLException {
        Set<TableName> found = new LinkedHashSet<>();
        query().each(
                        "SELECT s.name, t.name, rs.name, rt.name" + SqlServerDefinitions.TABLES
                                + " JOIN sys.foreign_keys k ON k.parent_object_id = t.object_id"
                                + " JOIN sys.tables rt ON rt.object_id = k.referenced_object_id"
                                + " JOIN sys.schemas rs ON rs.schema_id = rt.schema_id ORDER BY 1, 2",
                        row -> {
                            if (to.contains(name(row.getString(3), row.getString(4)))) {
                                found.add(name(row.getString(1), row.getString(2)));
                            }
                        });
        return List.copyOf(found);
    }

    /** As the database's own collation tells names apart. */
    @Override
    public UnaryOperator<TableName> held() throws SQLException {
        if (!query().any("SELECT 1 WHERE N'a' = N'A'")) {
            return super.held();
        }
        List<TableName> there = tables();
        return name -> Catalogue.alike(there, name).orElse(name);
    }

    /** Whatever stands in a schema has its name there alone, rules of tables included. */
    @Override
    public Map<TableName, String> otherNames() throws SQLException {
        Map<TableName, String> names = new LinkedHashMap<>();
        query().each(
                        "SELECT s.name, o.name, o.type_desc FROM sys.objects o JOIN sys.schemas s ON s.schema_id = o.schema_id"
                                + " WHERE o.is_ms_shipped = 0 AND o.type <> 'U'",
                        row -> names.put(
                                name(row.getString(1), row.getString(2)),
                                "a " + row.getString(3).toLowerCase(Locale.ROOT).replace('_', ' ')));
        return names;
    }

    @Override
    public boolean changesWhatComes(TableName table) throws SQLException {
        return query().any(
                        "SELECT 1" + SqlServerDefinitions.TABLES + " JOIN sys.triggers g ON g.parent_id = t.object_id"
                                + " WHERE g.is_disabled = 0 AND s.name = ? AND t.name = ?",
                        schema(table),
                        table.name());
    }

    @Override
    public List<LeftBehind> leftBehind() throws SQLException {
        return new SqlServerLeftBehind(query(), this::name).all();
    }
}
