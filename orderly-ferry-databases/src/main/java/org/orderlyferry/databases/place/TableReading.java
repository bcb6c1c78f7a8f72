package org.orderlyferry.databases.place;

import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.OutOfRangeCells;
import org.orderlyferry.databases.dialect.Reading;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.KeySample;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Reads records of tables: all of a slice, or those that a system picks itself. */
final class TableReading {

    private final Session session;
    private final Dialect dialect;
    private final OutOfRange outOfRange;
    private final Rejects rejects;

    /**
     * Over a session.
     *
     * @param rejects hears of records with values that can't travel
     */
    TableReading(Session session, OutOfRange outOfRange, Rejects rejects) {
        this.rejects = rejects;
        this.session = session;
        this.dialect = session.dialect();
        this.outOfRange = outOfRange;
    }

    /** All records of a slice. */
    RecordReader of(TableDefinition definition, Slice slice) {
        return read(definition, slice, "", rejects);
    }

    /** In arithmetic that all systems have alike: see {@link KeySample#has}. */
    RecordReader some(TableDefinition definition, Slice slice, KeySample sample) {
        Reading reading = dialect.reading();
        String rest = reading.remainder(dialect.quote(sample.column()), Integer.toString(KeySample.PRIME));
        return read(
                definition,
                slice,
                reading.remainder("ABS(" + rest + ") * " + KeySample.FACTOR, Integer.toString(KeySample.CLASSES))
                        + " < " + sample.share(),
                rejects);
    }

    /** Those that a restriction keeps, as far as the system can say it. */
    RecordReader picked(TableDefinition table, Slice slice, Restriction restriction) {
        return read(table, slice, condition(table, restriction).orElse(""), rejects);
    }

    private Optional<String> condition(TableDefinition table, Restriction restriction) {
        boolean nullsAreNulls = outOfRange == OutOfRange.REFUSE;
        return new Restricting(dialect, table, nullsAreNulls).sql(restriction);
    }

    /** Some records that a system has left out, as far as it can, are counted in one transaction with the reading: both see the same. */
    RecordReader restricted(TableDefinition table, Slice slice, Restriction restriction) {
        Optional<String> condition = condition(table, restriction);
        if (condition.isEmpty()) {
            return of(table, slice);
        }
        String all = "SELECT " + dialect.reading().counting() + " FROM " + dialect.quote(slice.table())
                + Cutting.where(session, table, slice.range());
        AtomicLong rejected = new AtomicLong();
        Rejects counting = why -> {
            rejects.reject(why);
            rejected.incrementAndGet();
        };
        // what is rejected isn't left out
        return new RestrictedReader(
                read(table, slice, condition.get(), counting),
                () -> -rejected.get()
                        + session.work(
                                "the records of table " + table.name() + " can't be counted",
                                () -> session.value(all).map(Long::parseLong).orElseThrow()));
    }

    private RecordReader read(TableDefinition definition, Slice slice, String condition, Rejects hearing) {
        TableDefinition table = definition.withColumns(slice.columns());
        String where = Cutting.where(session, definition, slice.range());
        String more = condition.isEmpty() ? "" : (where.isEmpty() ? " WHERE " : " AND ") + condition;
        String rest = " FROM " + dialect.quote(slice.table()) + where + more;
        return session.work("table " + table.name() + " can't be read", () -> {
            OutOfRangeCells cells = new OutOfRangeCells(table, outOfRange, hearing);
            Optional<RecordReader> bulk = dialect.reading().bulk(session, table, rest, cells);
            return bulk.isPresent()
                    ? bulk.get()
                    : new ResultReader(session, "SELECT " + list(table) + rest, table, cells);
        });
    }

    private String list(TableDefinition table) {
        String list = table.columns().stream().map(dialect.reading()::selected).collect(Collectors.joining(", "));
        // a table of which no column is wanted still has a number of records
        return list.isEmpty() ? "1" : list;
    }
}
