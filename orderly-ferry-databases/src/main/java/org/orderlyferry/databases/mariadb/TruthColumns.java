package org.orderlyferry.databases.mariadb;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.WeakHashMap;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/**
 * Columns of the type {@code tinyint(1)}, which is what BOOLEAN is there, and also what many a small number is kept in. What
 * counts, or refers to a number, is a number. Of the others a database that is read is asked once, table by table,
 * whether there are other numbers than 0 and 1 in them; a column that has others is carried as numbers, and that is told.
 */
final class TruthColumns {

    private static final Map<Connection, TruthColumns> KNOWN = Collections.synchronizedMap(new WeakHashMap<>());

    private final Map<TableName, Set<String>> numbers = new HashMap<>();
    private final List<LeftBehind> told = new ArrayList<>();

    /** What was found out by a connection, which sees one state of the database. */
    static TruthColumns of(Connection connection) {
        return KNOWN.computeIfAbsent(connection, c -> new TruthColumns());
    }

    /** Columns that are carried as numbers, of the tables that were asked for so far. */
    List<LeftBehind> told() {
        return List.copyOf(told);
    }

    /**
     * The table's columns that are numbers: they are known to be, or have others than 0 and 1 where its records may be read.
     *
     * @param columns those that are declared so
     * @param known those of them that are numbers whatever their values
     */
    Set<String> numbers(
            Connection connection,
            TableName table,
            Collection<String> columns,
            Set<String> known,
            UnaryOperator<String> quote)
            throws SQLException {
        Set<String> found = numbers.get(table);
        if (found == null) {
            List<String> others =
                    columns.stream().filter(c -> !known.contains(c)).toList();
            found = new TreeSet<>(others.isEmpty() ? Set.of() : looked(connection, table, others, quote));
            found.forEach(c -> tell(table, c, "has other values than 0 and 1"));
            new TreeSet<>(known).forEach(c -> tell(table, c, "counts, or refers to a number"));
            found.addAll(known);
            numbers.put(table, found);
        }
        return found;
    }

    private void tell(TableName table, String column, String why) {
        told.add(LeftBehind.of(
                table, "type", column, "it is declared as tinyint(1), and is carried as SMALLINT, since it " + why));
    }

    private static Set<String> looked(
            Connection connection, TableName table, Collection<String> columns, UnaryOperator<String> quote)
            throws SQLException {
        String list = columns.stream()
                .map(c -> "MAX(" + quote.apply(c) + " NOT IN (0, 1))")
                .collect(Collectors.joining(", "));
        Set<String> numbers = new HashSet<>();
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery("SELECT " + list + " FROM " + quote.apply(table.name()))) {
            row.next();
            int i = 0;
            for (String column : columns) {
                if (row.getLong(++i) > 0) {
                    numbers.add(column);
                }
            }
        } catch (SQLException e) {
            if (!MariaCatalogue.isDenied(e)) {
                throw e;
            }
        }
        return numbers;
    }
}
