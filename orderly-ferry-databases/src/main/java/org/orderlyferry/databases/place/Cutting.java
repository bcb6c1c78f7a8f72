package org.orderlyferry.databases.place;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BiFunction;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.OutOfRangeCells;
import org.orderlyferry.databases.dialect.Reading;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.sql.Statements;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Query;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.text.InvalidValueException;

/**
 * Cuts a table where its key's real distribution says: each boundary is found by walking so many entries of the key's
 * index, so gaps and skew make no slice larger than another. A primary key of whole numbers of which most are there needs
 * no walk ({@link WholeNumbers}).
 */
final class Cutting {

    private final Session session;
    private final Dialect dialect;
    private final TableDefinition table;
    private final List<ColumnDefinition> key;

    private Cutting(Session session, TableDefinition table, List<ColumnDefinition> key) {
        this.session = session;
        this.dialect = session.dialect();
        this.table = table;
        this.key = key;
    }

    /** Slices that hold all records of a table, and each once. */
    static List<Slice> slices(Session session, TableDefinition table, long rows, Cut cut) throws SQLException {
        Slice whole = Slice.whole(table);
        Optional<List<ColumnDefinition>> key = key(session, table, cut);
        long number = (rows + cut.rows() - 1) / cut.rows();
        if (number < 2) {
            return List.of(whole);
        }
        if (cut.standing() == Cut.Standing.WHERE_SCATTERED && !cut.columns().containsKey(table.name())
                || cut.standing() == Cut.Standing.WITHOUT_A_KEY && key.isEmpty()) {
            List<Slice> standing = standing(session, table, key, number);
            if (!standing.isEmpty()) {
                return standing;
            }
        }
        return key.isEmpty()
                ? List.of(whole)
                : new Cutting(session, table, key.get()).slices(whole, (rows + number - 1) / number, rows);
    }

    private static List<Slice> standing(
            Session session, TableDefinition table, Optional<List<ColumnDefinition>> key, long number)
            throws SQLException {
        Reading reading = session.dialect().reading();
        List<String> values = reading.standings(session, table.name(), key.map(k -> k.get(0)), number);
        return values.isEmpty()
                ? List.of()
                : parted(values.stream().map(List::of).toList(), (from, to) -> Slice.whole(table)
                        .within(KeyRange.standing(
                                reading.standing().orElseThrow().name(), from, to)));
    }

    private static Optional<List<ColumnDefinition>> key(Session session, TableDefinition table, Cut cut) {
        String chosen = cut.columns().get(table.name());
        if (chosen != null) {
            return Optional.of(List.of(column(session, table, chosen)));
        }
        return table.primaryKey()
                .map(k -> k.columns().stream()
                        .map(c -> table.column(c).orElseThrow())
                        .toList())
                .filter(k -> k.stream().allMatch(session.dialect().reading()::canCut));
    }

    private static ColumnDefinition column(Session session, TableDefinition table, String chosen) {
        ColumnDefinition column = table.column(chosen)
                .or(() -> table.columns().stream()
                        .filter(c -> c.name().equalsIgnoreCase(chosen))
                        .findFirst())
                .orElseThrow(() -> new UsageException("table " + table.name() + " has no column " + chosen));
        if (!session.dialect().reading().canCut(column)) {
            throw new UsageException(
                    "table " + table.name() + " can't be cut by " + chosen + ", which is " + column.type());
        }
        return column;
    }

    /** Ranges of what a query gives: it is run once for that, in order of the column. */
    static List<KeyRange> ranges(Session session, Query query, TableDefinition table, String chosen, long rows)
            throws SQLException {
        ColumnDefinition column = column(session, table, chosen);
        String name = session.dialect().quote(column.name());
        String sql = "SELECT " + session.dialect().reading().selected(column) + " FROM ("
                + Statements.withoutEnd(query.sql(), session.dialect().system()) + "\n) ferry_query WHERE " + name
                + " IS NOT NULL ORDER BY " + name;
        List<String> names = List.of(column.name());
        TableDefinition shown = table.withColumns(names);
        List<KeyRange> ranges = new ArrayList<>();
        List<String> from = List.of();
        try (RecordReader reader = new ResultReader(session, sql, shown, OutOfRangeCells.refusing(shown))) {
            RecordBatch batch = new RecordBatch();
            long seen = 0;
            String last = "";
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++, seen++) {
                    String value = batch.text(row, 0);
                    if (seen >= rows && !value.equals(last)) {
                        ranges.add(new KeyRange(names, from, List.of(value), false));
                        from = List.of(value);
                        seen = 0;
                    }
                    last = value;
                }
            }
        }
        ranges.add(new KeyRange(names, from, List.of(), false));
        ranges.add(KeyRange.nulls(column.name()));
        return ranges;
    }

    private List<Slice> slices(Slice whole, long rows, long all) throws SQLException {
        List<List<String>> boundaries = numbers(rows, all);
        return slices(whole, boundaries.isEmpty() ? walked(rows) : boundaries);
    }

    /** Boundaries between numbers that nobody has to be asked for; empty where there are none such. */
    private List<List<String>> numbers(long rows, long all) throws SQLException {
        if (key.size() > 1 || !WholeNumbers.identify(table, key.get(0))) {
            return List.of();
        }
        return WholeNumbers.between(end("MIN("), end("MAX("), rows, all).stream()
                .map(List::of)
                .toList();
    }

    private Optional<String> end(String which) throws SQLException {
        return session.value("SELECT " + which + name(0) + ") FROM " + dialect.quote(table.name()));
    }

    private List<List<String>> walked(long rows) throws SQLException {
        List<List<String>> boundaries = new ArrayList<>();
        List<String> last = List.of();
        while (true) {
            List<String> next = boundary(last.isEmpty() ? "" : atLeast(0, last), rows);
            if (next.equals(last) && !next.isEmpty()) {
                // more records than a slice holds have one value: they can't be parted
                next = boundary("NOT (" + atMost(0, last) + ")", 0);
            }
            if (next.isEmpty()) {
                break;
            }
            boundaries.add(next);
            last = next;
        }
        return boundaries;
    }

    private List<Slice> slices(Slice whole, List<List<String>> boundaries) throws SQLException {
        List<String> names = key.stream().map(ColumnDefinition::name).toList();
        List<Slice> slices = parted(boundaries, (from, to) -> whole.within(new KeyRange(names, from, to, false)));
        boolean nulls = key.get(0).nullable()
                && session.value("SELECT 1 FROM " + dialect.quote(table.name()) + " WHERE " + name(0)
                                + " IS NULL ORDER BY " + name(0)
                                + dialect.reading().oneAfter(0))
                        .isPresent();
        if (nulls) {
            slices.add(whole.within(KeyRange.nulls(names.get(0))));
        }
        return slices;
    }

    private static List<Slice> parted(
            List<List<String>> boundaries, BiFunction<List<String>, List<String>, Slice> between) {
        List<Slice> slices = new ArrayList<>();
        List<String> from = List.of();
        for (List<String> to : boundaries) {
            slices.add(between.apply(from, to));
            from = to;
        }
        slices.add(between.apply(from, List.of()));
        return slices;
    }

    private String name(int column) {
        return dialect.quote(key.get(column).name());
    }

    /** The key of the record that comes so many after the first of some; empty where there are no more. */
    private List<String> boundary(String which, long after) throws SQLException {
        String given = key.get(0).nullable() ? name(0) + " IS NOT NULL" : "";
        String where = String.join(
                " AND ",
                List.of(given, which).stream().filter(s -> !s.isEmpty()).toList());
        List<String> selected = key.stream().map(dialect.reading()::selected).toList();
        List<String> order = key.stream().map(c -> dialect.quote(c.name())).toList();
        String sql = "SELECT " + String.join(", ", selected) + " FROM " + dialect.quote(table.name())
                + (where.isEmpty() ? "" : " WHERE " + where) + " ORDER BY " + String.join(", ", order)
                + dialect.reading().oneAfter(after);
        try (Statement statement = session.connection().createStatement();
                ResultSet row = statement.executeQuery(sql)) {
            return row.next() ? values(row) : List.of();
        }
    }

    private List<String> values(ResultSet row) throws SQLException {
        RecordBatch batch = new RecordBatch();
        batch.start(key.size(), table.name().toString(), session.address(), false);
        List<String> values = new ArrayList<>();
        for (int i = 0; i < key.size(); i++) {
            try {
                dialect.reading().reader(key.get(i)).read(row, i + 1, batch);
            } catch (InvalidValueException e) {
                throw new SQLException("the value '" + row.getString(i + 1) + "' of its key " + e.getMessage(), e);
            }
        }
        batch.endRow(1);
        for (int i = 0; i < key.size(); i++) {
            values.add(batch.text(0, i));
        }
        return values;
    }

    private String atLeast(int column, List<String> values) {
        return compared(session, key, column, values, ">", ">=");
    }

    private String atMost(int column, List<String> values) {
        return compared(session, key, column, values, "<", "<=");
    }

    /** What a slice's WHERE says; empty for a slice without a range. */
    static String where(Session session, TableDefinition table, KeyRange range) {
        if (range.isAll()) {
            return "";
        }
        List<ColumnDefinition> key = range.columns().stream()
                .map(c -> (range.standing() ? standing(session, c) : table.column(c))
                        .orElseThrow(() -> new UsageException("table " + table.name() + " has no column " + c)))
                .toList();
        String first = session.dialect().quote(key.get(0).name());
        if (range.nulls()) {
            return " WHERE " + first + " IS NULL";
        }
        List<String> conditions = new ArrayList<>();
        if (!range.from().isEmpty()) {
            conditions.add(compared(session, key, 0, range.from(), ">", ">="));
        }
        if (!range.to().isEmpty()) {
            conditions.add(compared(session, key, 0, range.to(), "<", "<"));
        }
        if (conditions.isEmpty()) {
            conditions.add(first + " IS NOT NULL");
        }
        return " WHERE " + String.join(" AND ", conditions);
    }

    private static Optional<ColumnDefinition> standing(Session session, String column) {
        return session.dialect().reading().standing().filter(s -> s.name().equals(column));
    }

    /**
     * Compares a key with values, the first column first. Each column's own comparison stands in front, so that the
     * system can find its place in an index.
     *
     * @param strict how a column must compare where those behind it don't count
     * @param end how the last column must
     */
    private static String compared(
            Session session, List<ColumnDefinition> key, int column, List<String> values, String strict, String end) {
        ColumnDefinition definition = key.get(column);
        String name = session.dialect().quote(definition.name());
        String value = session.dialect().reading().literal(definition, values.get(column));
        if (column == key.size() - 1) {
            return name + " " + end + " " + value;
        }
        return name + " " + strict + "= " + value + " AND (" + name + " " + strict + " " + value + " OR "
                + compared(session, key, column + 1, values, strict, end) + ")";
    }
}
