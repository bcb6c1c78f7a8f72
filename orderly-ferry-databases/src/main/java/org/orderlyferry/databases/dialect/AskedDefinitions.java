package org.orderlyferry.databases.dialect;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * The definitions of one table, or of all: the same questions to a catalogue's views, with or without its name. One instance serves
 * one asking.
 */
@API(status = API.Status.INTERNAL)
public abstract class AskedDefinitions {

    /**
     * Where a catalogue has its tables.
     *
     * @param schema what gives a table's schema
     * @param name what gives its name
     * @param from of what: {@code FROM …}, with a blank in front
     * @param users which of them are users': {@code WHERE …}, with a blank in front
     */
    public record Tables(String schema, String name, String from, String users) {

        /** A query of all of them, by schema and name. */
        public String all() {
            return "SELECT " + schema + ", " + name + from + users;
        }

        /** What of a condition says that it is one of them, whose schema and name are given. */
        public String one() {
            return " AND " + schema + " = ? AND " + name + " = ?";
        }
    }

    /** Takes a row, which begins with a table's schema and name. */
    @FunctionalInterface
    protected interface Row {
        void take(DraftTable of, ResultSet row) throws SQLException;
    }

    private final CatalogueQuery query;
    private final Tables tables;
    private final String system;
    private final DefaultSchema schema;
    private final Map<TableName, DraftTable> drafts = new LinkedHashMap<>();
    private Optional<TableName> only = Optional.empty();

    /**
     * Definitions of a database.
     *
     * @param schema the one of names without one
     */
    protected AskedDefinitions(CatalogueQuery query, Tables tables, String system, String schema) {
        this.query = query;
        this.tables = tables;
        this.system = system;
        this.schema = new DefaultSchema(schema);
    }

    /** Asks all questions. */
    protected abstract void ask() throws SQLException;

    /** One table, which is known to be there. */
    public final TableDefinition one(TableName table) throws SQLException {
        only = Optional.of(table);
        drafts.put(table, new DraftTable(table, system));
        ask();
        return drafts.get(table).built();
    }

    /** All tables of users. */
    public final Map<TableName, TableDefinition> all() throws SQLException {
        query.each(tables.all(), row -> {
            TableName name = name(row.getString(1), row.getString(2));
            drafts.put(name, new DraftTable(name, system));
        });
        ask();
        Map<TableName, TableDefinition> all = new LinkedHashMap<>();
        drafts.forEach((name, draft) -> all.put(name, draft.built()));
        return all;
    }

    /** A table's name, from its schema's and its own. */
    protected final TableName name(String of, String table) {
        return schema.name(of, table);
    }

    /**
     * Asks one question.
     *
     * @param what is wanted beside the table's schema and name
     * @param from what is joined to the tables, with a blank in front
     * @param where what else must hold, with AND in front
     */
    protected final void each(String what, String from, String where, String order, Row taken) throws SQLException {
        String[] place = only.map(t -> new String[] {schema.of(t), t.name()}).orElse(new String[0]);
        query.each(
                "SELECT " + tables.schema() + ", " + tables.name() + ", " + what + tables.from() + from + tables.users()
                        + where + (only.isEmpty() ? "" : tables.one()) + order,
                row -> {
                    DraftTable draft = drafts.get(name(row.getString(1), row.getString(2)));
                    if (draft != null) {
                        taken.take(draft, row);
                    }
                },
                place);
    }
}
