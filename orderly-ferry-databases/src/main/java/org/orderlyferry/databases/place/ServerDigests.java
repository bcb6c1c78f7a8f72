package org.orderlyferry.databases.place;

import java.math.BigInteger;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.OutOfRangeCells;
import org.orderlyferry.databases.dialect.RecordDigests;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OwnDigests;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.Digest;
import org.orderlyferry.tally.Tally;

/** Digests that a database's server takes: the sum of those of all records. */
final class ServerDigests implements OwnDigests {

    private final Session session;
    private final KnownTables known;
    private final RecordDigests digests;
    private final Consumer<Slice> touch;
    private final Function<Rejects, TableReading> reading;
    private Optional<String> server = Optional.empty();
    private boolean asked;

    /**
     * Over a session.
     *
     * @param touch run before another table is read
     * @param reading how records are read, by who hears of those that can't be taken
     */
    ServerDigests(
            Session session,
            KnownTables known,
            RecordDigests digests,
            Consumer<Slice> touch,
            Function<Rejects, TableReading> reading) {
        this.reading = reading;
        this.touch = touch;
        this.session = session;
        this.known = known;
        this.digests = digests;
    }

    @Override
    public Optional<String> form(TableName table, List<String> columns) {
        List<ColumnDefinition> wanted = known.define(table).withColumns(columns).columns();
        List<String> kinds =
                wanted.stream().flatMap(c -> digests.kind(c).stream()).toList();
        // one that has no kind is one too few
        return columns.isEmpty()
                        || kinds.size() < columns.size()
                        || digests.of(wanted, 0).isEmpty()
                ? Optional.empty()
                : server().map(how -> how + " " + kinds);
    }

    /** Asked of the server once. */
    private Optional<String> server() {
        if (!asked) {
            asked = true;
            server = session.work("how the server takes digests can't be told", () -> digests.form(session));
        }
        return server;
    }

    @Override
    public Tally of(Slice slice, long seed) {
        touch.accept(slice);
        TableDefinition table = known.define(slice.table());
        String digest =
                digests.of(table.withColumns(slice.columns()).columns(), seed).orElseThrow();
        String sql = "SELECT " + session.dialect().reading().counting() + ", COALESCE(SUM(" + digest + "), 0) FROM "
                + session.dialect().quote(slice.table()) + Cutting.where(session, table, slice.range());
        return session.work("a digest of table " + slice.table() + " can't be taken", () -> {
            try (Statement statement = session.connection().createStatement();
                    ResultSet row = statement.executeQuery(sql)) {
                row.next();
                return new Tally(row.getLong(1), digest(row.getBigDecimal(2).toBigIntegerExact()), List.of());
            }
        });
    }

    @Override
    public RecordReader read(Slice slice, List<String> key, long seed) {
        touch.accept(slice);
        TableDefinition table = known.define(slice.table());
        Dialect dialect = session.dialect();
        String digest =
                digests.of(table.withColumns(slice.columns()).columns(), seed).orElseThrow();
        TableDefinition keys = table.withColumns(key);
        String name = "digest";
        while (keys.column(name).isPresent()) {
            name += "_";
        }
        TableDefinition shown = TableDefinition.named(table.name().name())
                .name(table.name())
                .columns(keys.columns())
                .column(digests.column(name))
                .build();
        String list = key.stream().map(dialect::quote).collect(Collectors.joining(", "));
        String rest = " FROM (SELECT " + list + ", " + digest + " AS " + dialect.quote(name) + " FROM "
                + dialect.quote(slice.table()) + Cutting.where(session, table, slice.range()) + ") ferry_digests";
        return session.work("digests of table " + table.name() + " can't be read", () -> dialect.reading()
                .bulk(session, shown, rest, OutOfRangeCells.refusing(shown))
                .orElseThrow());
    }

    @Override
    public RecordReader pick(Slice slice, Restriction which, Rejects rejects) {
        touch.accept(slice);
        return reading.apply(rejects).picked(known.define(slice.table()), slice, which);
    }

    /** A sum of any size, modulo 2^128. */
    private static Digest digest(BigInteger sum) {
        return new Digest(sum.shiftRight(Long.SIZE).longValue(), sum.longValue());
    }
}
