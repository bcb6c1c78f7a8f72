package org.orderlyferry.databases.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.TableName;

/**
 * Triggers of a table that is replaced. MariaDB can't give a trigger another name or table, so each is made anew on the
 * new table. Meanwhile its text is kept as a trigger of another name on the table that was set aside: the way back is
 * read from the server's own catalogue, and not from what anybody could have written down.
 */
final class MovedTriggers {

    private final MariaDialect dialect;
    private final Session session;

    MovedTriggers(MariaDialect dialect, Session session) {
        this.dialect = dialect;
        this.session = session;
    }

    /** Steps that come after the tables have exchanged their names; to be asked before. */
    List<Settling.Step> steps(Arrival arrival) throws SQLException {
        List<Settling.Step> steps = new ArrayList<>();
        int number = 0;
        for (String name : of(arrival.name())) {
            String kept = arrival.loaded().name() + "t" + number++;
            steps.add(new Settling.Step(
                    create(name, kept, arrival.aside()), new Deed.TriggerMoved(name, kept, arrival.aside())));
            steps.add(Settling.Step.of(drop(name)));
            steps.add(Settling.Step.of(create(name, name, arrival.name())));
        }
        return steps;
    }

    private List<String> of(TableName table) throws SQLException {
        List<String> names = new ArrayList<>();
        session.query()
                .each(
                        "SELECT TRIGGER_NAME FROM information_schema.TRIGGERS WHERE EVENT_OBJECT_SCHEMA = DATABASE()"
                                + " AND EVENT_OBJECT_TABLE = ? ORDER BY ACTION_ORDER",
                        row -> names.add(row.getString(1)),
                        table.name());
        return names;
    }

    private Optional<String> tableOf(String trigger) throws SQLException {
        List<String> tables = new ArrayList<>();
        session.query()
                .each(
                        "SELECT EVENT_OBJECT_TABLE FROM information_schema.TRIGGERS WHERE TRIGGER_SCHEMA = DATABASE()"
                                + " AND TRIGGER_NAME = ?",
                        row -> tables.add(row.getString(1)),
                        trigger);
        return tables.stream().findFirst();
    }

    /** Puts a trigger back onto the table that was set aside, if its kept text shows that it was taken off. */
    List<String> back(Deed.TriggerMoved moved) throws SQLException {
        boolean ours = ReservedNames.isReserved(moved.kept())
                && ReservedNames.isReserved(moved.from().name());
        if (!ours) {
            throw Settling.unknown(moved);
        }
        Optional<String> on = tableOf(moved.trigger());
        if (tableOf(moved.kept()).isEmpty()) {
            return List.of();
        }
        if (on.equals(Optional.of(moved.from().name()))) {
            return List.of(drop(moved.kept()));
        }
        return List.of(drop(moved.trigger()), create(moved.kept(), moved.trigger(), moved.from()), drop(moved.kept()));
    }

    private String drop(String trigger) {
        return "DROP TRIGGER IF EXISTS " + dialect.quote(trigger);
    }

    /** A trigger's text, under another name and on another table. */
    private String create(String trigger, String as, TableName on) throws SQLException {
        try (Statement statement = session.connection().createStatement();
                ResultSet row = statement.executeQuery("SHOW CREATE TRIGGER " + dialect.quote(trigger))) {
            row.next();
            // a server without users has an empty one here, which it wouldn't take back
            String plain = row.getString(3).replaceFirst("DEFINER=(``|\"\")(@(``|\"\"))? ", "");
            // its text means what it meant only under the mode that it was made in
            return "SET STATEMENT sql_mode = " + DefinitionSql.string(row.getString(2)) + " FOR EXECUTE IMMEDIATE "
                    + DefinitionSql.string(renamed(plain, as, on));
        }
    }

    private String renamed(String create, String as, TableName on) throws SQLException {
        List<SqlToken> tokens = SqlToken.of(create);
        int name = 1;
        while (name < tokens.size() && !tokens.get(name - 1).is("TRIGGER")) {
            name++;
        }
        int table = name + 1;
        while (table < tokens.size() && !tokens.get(table - 1).is("ON")) {
            table++;
        }
        int end = table;
        while (end + 2 < tokens.size() && tokens.get(end + 1).isSymbol(".")) {
            end += 2;
        }
        if (end >= tokens.size()) {
            throw new SQLException("the trigger can't be read: " + create);
        }
        return create.substring(0, tokens.get(name).start())
                + dialect.quote(as)
                + create.substring(tokens.get(name).end(), tokens.get(table).start())
                + dialect.quote(on)
                + create.substring(tokens.get(end).end());
    }
}
