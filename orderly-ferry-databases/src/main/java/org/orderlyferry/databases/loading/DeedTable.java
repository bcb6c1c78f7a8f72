package org.orderlyferry.databases.loading;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;

/**
 * A small table in a target that holds deeds, a line for each, as facts and never as SQL: a database's users may write into it what
 * they like. All that is done is part of the session's transaction.
 */
final class DeedTable {

    static final List<String> COLUMNS = List.of("step_number", "kind", "facts");

    private final Session session;
    private final String name;

    DeedTable(Session session, TableName name) {
        this.session = session;
        this.name = session.dialect().quote(name);
    }

    void create() throws SQLException {
        String text = session.dialect().types().own(LogicalType.CLOB);
        session.execute(
                "CREATE TABLE " + name + " (step_number INTEGER NOT NULL PRIMARY KEY, kind VARCHAR(40) NOT NULL,"
                        + " facts " + text + " NOT NULL)");
    }

    void add(int number, Deed deed) throws SQLException {
        DeedText text = DeedText.of(deed);
        try (PreparedStatement insert =
                session.connection().prepareStatement("INSERT INTO " + name + " VALUES (?, ?, ?)")) {
            insert.setInt(1, number);
            insert.setString(2, text.kind());
            insert.setString(3, text.facts());
            insert.executeUpdate();
        }
    }

    void clear() throws SQLException {
        session.update("DELETE FROM " + name);
    }

    /** The highest number of a line, and one more; the given one where there is none. */
    int next(int first) throws SQLException {
        return Integer.parseInt(
                session.value("SELECT MAX(step_number) + 1 FROM " + name).orElse(Integer.toString(first)));
    }

    /**
     * The lines.
     *
     * @param texts last ones first
     * @param first the number of the first one; 0 where there is none
     */
    record Lines(List<DeedText> texts, int first) {}

    Lines lines() throws SQLException {
        List<DeedText> texts = new ArrayList<>();
        int[] first = {0};
        session.query().each("SELECT kind, facts, step_number FROM " + name + " ORDER BY step_number DESC", row -> {
            texts.add(new DeedText(row.getString(1), row.getString(2)));
            first[0] = row.getInt(3);
        });
        return new Lines(texts, first[0]);
    }

    void drop() throws SQLException {
        session.execute("DROP TABLE " + name);
    }
}
