package org.orderlyferry.databases.place;

import java.math.BigDecimal;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.OutOfRangeCells;
import org.orderlyferry.databases.dialect.OwnTotals;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.ServerTotal;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** Has a server compute control totals of a table by its own SQL, some columns at a time. */
final class ServerTotals {

    /** Of one query; servers take at most some thousand expressions. */
    private static final int COLUMNS = 150;

    private final Session session;
    private final TableDefinition table;

    ServerTotals(Session session, TableDefinition table) {
        this.session = session;
        this.table = table;
    }

    List<ServerTotal> compute() throws SQLException {
        List<ServerTotal> totals = new ArrayList<>();
        for (int from = 0; from < table.columns().size(); from += COLUMNS) {
            List<ColumnDefinition> columns = table.columns()
                    .subList(from, Math.min(from + COLUMNS, table.columns().size()));
            totals.addAll(compute(columns));
        }
        return totals;
    }

    private List<ServerTotal> compute(List<ColumnDefinition> columns) throws SQLException {
        List<String> asked = new ArrayList<>(List.of(session.dialect().reading().counting()));
        TableDefinition.Builder answer = TableDefinition.named(table.name()).column(number(0));
        for (ColumnDefinition column : columns) {
            String name = session.dialect().quote(column.name());
            OwnTotals own = session.dialect().reading().ownTotals(column);
            ask(asked, answer, "COUNT(" + name + ")", number(asked.size()));
            if (own.ordered()) {
                ask(asked, answer, "MIN(" + name + ")", like(column, asked.size()));
                ask(asked, answer, "MAX(" + name + ")", like(column, asked.size()));
            }
            if (own.summed()) {
                ask(asked, answer, session.dialect().reading().asText("SUM(" + name + ")"), text(asked.size()));
            }
            if (own.measured()) {
                String length = column.type().name().isBinary()
                        ? "OCTET_LENGTH(" + name + ")"
                        : "CHAR_LENGTH(RTRIM(" + name + "))";
                ask(asked, answer, session.dialect().reading().asText("SUM(" + length + ")"), text(asked.size()));
            }
        }
        TableDefinition told = answer.build();
        // read as columns of these types always are
        String sql = "SELECT "
                + told.columns().stream()
                        .map(session.dialect().reading()::selected)
                        .collect(Collectors.joining(", "))
                + " FROM (SELECT " + named(asked) + " FROM " + session.dialect().quote(table.name()) + ") ferry_totals";
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = new ResultReader(session, sql, told, OutOfRangeCells.refusing(told))) {
            reader.read(batch);
        }
        return totals(columns, batch);
    }

    private String named(List<String> asked) {
        List<String> named = new ArrayList<>();
        for (int i = 0; i < asked.size(); i++) {
            named.add(asked.get(i) + " AS " + session.dialect().quote("n" + i));
        }
        return String.join(", ", named);
    }

    private static void ask(
            List<String> asked, TableDefinition.Builder answer, String expression, ColumnDefinition column) {
        asked.add(expression);
        answer.column(column);
    }

    private static ColumnDefinition number(int place) {
        return ColumnDefinition.of("n" + place, LogicalType.BIGINT);
    }

    private static ColumnDefinition text(int place) {
        return ColumnDefinition.of("n" + place, LogicalType.CLOB);
    }

    private static ColumnDefinition like(ColumnDefinition column, int place) {
        return column.withName("n" + place);
    }

    private List<ServerTotal> totals(List<ColumnDefinition> columns, RecordBatch batch) {
        List<ServerTotal> totals = new ArrayList<>();
        long rows = Long.parseLong(batch.text(0, 0));
        int at = 1;
        for (ColumnDefinition column : columns) {
            OwnTotals own = session.dialect().reading().ownTotals(column);
            long values = Long.parseLong(batch.text(0, at++));
            Optional<String> smallest = own.ordered() ? Optional.ofNullable(batch.text(0, at++)) : Optional.empty();
            Optional<String> largest = own.ordered() ? Optional.ofNullable(batch.text(0, at++)) : Optional.empty();
            Optional<BigDecimal> sum = own.summed() ? sum(batch.text(0, at++)) : Optional.empty();
            Optional<BigDecimal> length = own.measured() ? sum(batch.text(0, at++)) : Optional.empty();
            totals.add(new ServerTotal(
                    column.name(),
                    values,
                    rows - values,
                    smallest,
                    largest,
                    sum,
                    length.isPresent() ? OptionalLong.of(length.get().longValueExact()) : OptionalLong.empty()));
        }
        return totals;
    }

    /** No values have no sum, and one that isn't finite is none that could be compared. */
    private static Optional<BigDecimal> sum(String text) {
        return text == null || !text.matches("-?[0-9]+(\\.[0-9]+)?")
                ? Optional.empty()
                : Optional.of(new BigDecimal(text));
    }
}
