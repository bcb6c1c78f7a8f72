package org.orderlyferry.databases.oracle;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.orderlyferry.databases.dialect.AskedCatalogue;
import org.orderlyferry.databases.dialect.AskedDefinitions;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/** Oracle's own catalogue: the views of what the user may see ({@code ALL_…}), in the schema SYS. */
final class OracleCatalogue extends AskedCatalogue {

    private final String schema;

    OracleCatalogue(Connection connection, String schema) {
        super(connection, OracleDefinitions.ALL, schema);
        this.schema = schema;
    }

    @Override
    protected AskedDefinitions definitions() {
        return new OracleDefinitions(query(), schema);
    }

    @Override
    public List<TableName> referrers(Set<TableName> to) throws SQLException {
        Set<TableName> found = new LinkedHashSet<>();
        query().each(
                        "SELECT k.OWNER, k.TABLE_NAME, r.OWNER, r.TABLE_NAME FROM SYS.ALL_CONSTRAINTS k JOIN SYS.ALL_CONSTRAINTS r"
                                + " ON r.OWNER = k.R_OWNER AND r.CONSTRAINT_NAME = k.R_CONSTRAINT_NAME WHERE k.CONSTRAINT_TYPE = 'R'"
                                + " ORDER BY 1, 2",
                        row -> {
                            if (to.contains(name(row.getString(3), row.getString(4)))) {
                                found.add(name(row.getString(1), row.getString(2)));
                            }
                        });
        return List.copyOf(found);
    }

    /** Tables share a schema's names with views, sequences, synonyms and whatever else stands by itself. */
    @Override
    public Map<TableName, String> otherNames() throws SQLException {
        Map<TableName, String> names = new LinkedHashMap<>();
        query().each(
                        "SELECT o.OWNER, o.OBJECT_NAME, o.OBJECT_TYPE FROM SYS.ALL_OBJECTS o JOIN SYS.ALL_USERS u"
                                + " ON u.USERNAME = o.OWNER WHERE u.ORACLE_MAINTAINED = 'N' AND o.OBJECT_TYPE IN ('VIEW',"
                                + " 'MATERIALIZED VIEW', 'SEQUENCE', 'SYNONYM', 'PROCEDURE', 'FUNCTION', 'PACKAGE', 'TYPE',"
                                + " 'OPERATOR', 'JAVA CLASS', 'QUEUE')",
                        row -> names.put(
                                name(row.getString(1), row.getString(2)),
                                "a " + row.getString(3).toLowerCase(Locale.ROOT)));
        return names;
    }

    @Override
    public boolean changesWhatComes(TableName table) throws SQLException {
        return query().any(
                        "SELECT 1 FROM SYS.ALL_TRIGGERS g WHERE g.STATUS = 'ENABLED' AND g.TABLE_OWNER = ? AND g.TABLE_NAME = ?",
                        schema(table),
                        table.name());
    }

    @Override
    public List<LeftBehind> leftBehind() throws SQLException {
        return new OracleLeftBehind(query(), this::name).all();
    }
}
