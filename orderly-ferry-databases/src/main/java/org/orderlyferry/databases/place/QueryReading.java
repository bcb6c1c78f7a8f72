package org.orderlyferry.databases.place;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.OutOfRangeCells;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.sql.Statements;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.place.Query;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Reads what a person's own query gives, as a table. */
final class QueryReading {

    private static final String ALL = "*";

    private final Session session;
    private final Dialect dialect;
    private final OutOfRange outOfRange;

    QueryReading(Session session, OutOfRange outOfRange) {
        this.session = session;
        this.dialect = session.dialect();
        this.outOfRange = outOfRange;
    }

    /** A query that changes something isn't one; that nothing can be changed is seen to by the session as well. */
    private void mustOnlyRead(Query query) {
        if (!Statements.isQuery(query.sql(), dialect.system())) {
            throw new UsageException("the query " + query.name() + " isn't one SELECT that only reads: " + query.sql());
        }
    }

    /** Asked of the prepared statement, where the driver can tell from it; else the query is run for its first record. */
    TableDefinition define(Query query) {
        mustOnlyRead(query);
        return session.work("the query " + query.name() + " can't be used", () -> {
            try (PreparedStatement statement = session.connection().prepareStatement(query.sql())) {
                ResultSetMetaData columns = dialect.reading().describesPrepared() ? statement.getMetaData() : null;
                if (columns != null) {
                    return queried(query, columns);
                }
                statement.setMaxRows(1);
                try (ResultSet result = statement.executeQuery()) {
                    return queried(query, result.getMetaData());
                }
            }
        });
    }

    private TableDefinition queried(Query query, ResultSetMetaData columns) throws SQLException {
        TableDefinition.Builder table = TableDefinition.named(query.name());
        Set<String> names = new HashSet<>();
        for (int i = 1; i <= columns.getColumnCount(); i++) {
            String name = columns.getColumnLabel(i);
            if (!names.add(name)) {
                throw new UsageException(
                        "the query " + query.name() + " gives two columns named " + name + "; name one with AS");
            }
            table.column(ColumnDefinition.of(name, dialect.reading().queried(columns, i)));
        }
        return table.build();
    }

    List<KeyRange> cut(Query query, TableDefinition definition, String column, long rows) {
        mustOnlyRead(query);
        return session.work(
                "the query " + query.name() + " can't be cut into slices",
                () -> Cutting.ranges(session, query, definition, column, rows));
    }

    RecordReader read(Query query, TableDefinition definition, KeyRange range, Rejects rejects) {
        mustOnlyRead(query);
        String columns = columns(definition);
        String sql;
        if (!range.isAll()) {
            sql = within(columns, Statements.withoutEnd(query.sql(), dialect.system()))
                    + Cutting.where(session, definition, range);
        } else if (columns.equals(ALL)) {
            sql = query.sql();
        } else {
            sql = within(columns, Statements.inOrder(query.sql(), dialect.system()));
        }
        return session.work(
                "table " + definition.name() + " can't be read",
                () -> new ResultReader(session, sql, definition, new OutOfRangeCells(definition, outOfRange, rejects)));
    }

    private static String within(String columns, String query) {
        return "SELECT " + columns + " FROM (" + query + "\n) ferry_query";
    }

    private String columns(TableDefinition definition) {
        boolean asTheyAre = definition.columns().stream()
                .allMatch(c -> dialect.reading().selectedOfQuery(c).isEmpty());
        return asTheyAre
                ? ALL
                : definition.columns().stream()
                        .map(c -> dialect.reading().selectedOfQuery(c).orElseGet(() -> dialect.quote(c.name())))
                        .collect(Collectors.joining(", "));
    }
}
