package org.orderlyferry.reconcile;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.ServerTotal;
import org.orderlyferry.place.Slice;
import org.orderlyferry.tally.TallyTaker;
import org.orderlyferry.work.TallyWork;

/** One side's control totals. */
final class TotalsSide implements TallyWork.Witnesses {

    private final Map<TableName, List<TotalKind>> kinds = new HashMap<>();
    private final Map<TableName, List<TotalTaker>> sums = new HashMap<>();
    private final Map<TableName, List<ServerTotal>> servers = new HashMap<>();
    private final List<Finding> findings = new ArrayList<>();
    private String address = "";
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

    /** Has a place compute them by its own SQL. */
    void ask(Place place) {
        address = place.address();
        kinds.keySet().forEach(table -> place.totals(table).ifPresent(totals -> servers.put(table, totals)));
    }

    /** Whether the place's own SQL comes to what was read; empty if it wasn't asked. */
    Optional<Boolean> confirmed(TableName table, String column, ColumnTotal read) {
        return servers.getOrDefault(table, List.of()).stream()
                .filter(t -> t.column().equals(column))
                .findFirst()
                .map(server -> {
                    Optional<String> unlike = unlike(read, server);
                    unlike.ifPresent(what -> findings.add(
                            new Finding(FindingCode.TOTAL_UNLIKE, table, column, "of " + address + ": " + what)));
                    return unlike.isEmpty();
                });
    }

    private static Optional<String> unlike(ColumnTotal read, ServerTotal server) {
        if (read.values() != server.values() || read.nulls() != server.nulls()) {
            return Optional.of("its own SQL counts " + server.values() + " values and " + server.nulls()
                    + " nulls, and " + read.values() + " and " + read.nulls() + " were read");
        }
        if (server.sum().isPresent()
                && read.sum().isPresent()
                && server.sum().get().compareTo(read.sum().get()) != 0) {
            return Optional.of("its own SQL sums up to " + server.sum().get() + ", and the values that were read to "
                    + read.sum().get());
        }
        if (server.length().isPresent()
                && read.length().isPresent()
                && server.length().getAsLong() != read.length().getAsLong()) {
            return Optional.of("by its own SQL the values have a length of "
                    + server.length().getAsLong() + ", and as they were read of "
                    + read.length().getAsLong());
        }
        return isUnlike(server.smallest(), read.smallest(), read.sum().isPresent())
                        || isUnlike(server.largest(), read.largest(), read.sum().isPresent())
                ? Optional.of(
                        "by its own SQL the values go from " + server.smallest().orElse("nothing") + " to "
                                + server.largest().orElse("nothing") + ", and as they were read from "
                                + read.smallest().orElse("nothing") + " to "
                                + read.largest().orElse("nothing"))
                : Optional.empty();
    }

    private static boolean isUnlike(Optional<String> server, Optional<String> read, boolean number) {
        if (server.isEmpty() || read.isEmpty()) {
            return false;
        }
        return number
                ? new BigDecimal(server.get()).compareTo(new BigDecimal(read.get())) != 0
                : !server.get().equals(read.get());
    }

    List<Finding> findings() {
        return findings;
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
    public synchronized String done(int number) {
        Attempt attempt = attempts.remove(number);
        List<TotalTaker> sum = Objects.requireNonNull(sums.get(attempt.table()));
        for (int column = 0; column < sum.size(); column++) {
            sum.get(column).add(attempt.columns().get(column));
        }
        return "";
    }

    List<ColumnTotal> of(TableName table) {
        return Objects.requireNonNull(sums.get(table)).stream()
                .map(TotalTaker::total)
                .toList();
    }
}
