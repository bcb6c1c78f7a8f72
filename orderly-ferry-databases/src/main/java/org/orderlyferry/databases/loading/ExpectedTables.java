package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apiguardian.api.API;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.PlainDefinition;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Expectation;

/** Says what a load would make of tables. */
@API(status = API.Status.INTERNAL)
public final class ExpectedTables {

    private ExpectedTables() {}

    /**
     * What a load would make now.
     *
     * @param trusting whether definitions are taken as they are where they go beyond what can be read
     */
    public static Expectation of(Session session, List<TableDefinition> wanted, boolean trusting) throws SQLException {
        LoadNotes notes = new LoadNotes();
        Map<TableName, TableDefinition> made = LoadPlan.expected(session, wanted, trusting, notes);
        PlainDefinition plain = new PlainDefinition(session.dialect());
        Map<TableName, TableDefinition> expected = new LinkedHashMap<>();
        made.forEach((source, table) -> expected.put(source, plain.of(table)));
        return new Expectation(expected, plain::of, session.dialect().types()::own, notes.leftBehind());
    }
}
