package org.orderlyferry.reconcile;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.ConcurrentHashMap;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Slice;
import org.orderlyferry.tally.TallyTaker;
import org.orderlyferry.work.TallyWork;

/** One side's control totals. */
final class TotalsSide implements TallyWork.Witnesses {

    private final Map<TableName, List<TotalKind>> kinds = new HashMap<>();
    private final Map<TableName, List<TotalTaker>> sums = new HashMap<>();
    private final Map<Integer, Attempt> attempts = new ConcurrentHashMap<>();

    private record Attempt(TableName table, List<TotalTaker> columns) {}

    /** Says what is totalled of a table's compared columns; before any of its records is read. */
    void expect(TableName table, List<TotalKind> columns) {
        kinds.put(table, columns);
        sums.put(table, takers(columns));
    }

    private static List<TotalTaker> takers(List<TotalKind> columns) {
        return columns.stream().map(TotalTaker::new).toList();
    }

    @Override
    public void attend(TallyTaker taker, TableName table, Slice slice, int number) {
        List<TotalTaker> columns = takers(Objects.requireNonNull(kinds.get(table)));
        attempts.put(number, new Attempt(table, columns));
        taker.witness((batch, t) -> {
            for (int column = 0; column < columns.size(); column++) {
                columns.get(column).add(batch, column);
            }
        });
    }

    @Override
    public synchronized void done(int number) {
        Attempt attempt = attempts.remove(number);
        List<TotalTaker> sum = Objects.requireNonNull(sums.get(attempt.table()));
        for (int column = 0; column < sum.size(); column++) {
            sum.get(column).add(attempt.columns().get(column));
        }
    }

    List<ColumnTotal> of(TableName table) {
        return Objects.requireNonNull(sums.get(table)).stream()
                .map(TotalTaker::total)
                .toList();
    }
}
