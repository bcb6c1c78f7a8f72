package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.OwnDigests;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.reconcile.ComparedTable;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.reconcile.RowCounts;
import org.orderlyferry.reconcile.Verdict;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.testkit.generated.GeneratedRows;
import org.orderlyferry.testkit.generated.GeneratedTables;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.work.Load;

/** What two servers take for equal by digests of their own is equal by the values, and what isn't is read. */
class ServerDigestsTest {

    private static final List<String> TYPES = List.of(
            "create type mood as enum ('calm', 'Calm')",
            "create domain label as text",
            "create collation anycase (provider = icu, locale = 'und-u-ks-level2', deterministic = false)");

    /** Values that no other system has, so that they aren't read unless told how. */
    private static final Set<String> ONLY_POSTGRES =
            Set.of("'NaN'", "'infinity'", "'-infinity'", "'Infinity'", "'-Infinity'");

    @TempDir
    Path folder;

    private static ReconcileResult compared(String from, String to, UnaryOperator<Reconcile> how) {
        try (Place a = Places.open(from);
                Place b = Places.open(to)) {
            return how.apply(Reconcile.between(a, b)).compare();
        }
    }

    private static ComparedTable only(ReconcileResult result) {
        assertThat(result.tables()).hasSize(1);
        return result.tables().get(0);
    }

    /** Compared by the servers, and by the values, which must come to the same. */
    private static ComparedTable both(String from, String to, String... tables) {
        ComparedTable asked = only(compared(from, to, r -> r.tables(tables).byServers(true)));
        ComparedTable read = only(compared(from, to, r -> r.tables(tables)));
        assertThat(read.isByServers()).isFalse();
        assertThat(asked.verdict()).as(asked + " " + read).isEqualTo(read.verdict());
        return asked;
    }

    /** Values of one type that are easily taken for each other, none equal to another. */
    private record Neighbours(String type, boolean hashed, List<String> values) {
        Neighbours(String type, String... values) {
            this(type, true, List.of(values));
        }
    }

    static Stream<Neighbours> neighbours() {
        return Stream.of(
                new Neighbours("boolean", "true", "false", "null"),
                new Neighbours("smallint", "0", "-1", "1", "null"),
                new Neighbours("integer", "0", "-1", "65536", "null"),
                new Neighbours(
                        "bigint",
                        "0",
                        "4294967296",
                        "-1",
                        "1",
                        "4294967297",
                        "-4294967297",
                        "4294967295",
                        "9223372036854775807",
                        "null"),
                new Neighbours("real", "0", "'NaN'", "'Infinity'", "1e-45", "null"),
                new Neighbours("double precision", "0", "'NaN'", "'-Infinity'", "5e-324", "0.1", "null"),
                new Neighbours(
                        "numeric",
                        "0",
                        "1",
                        "-1",
                        "10000",
                        "'NaN'",
                        "'Infinity'",
                        "'-Infinity'",
                        "0.1",
                        "0.10000000000000000000000001",
                        "1e300",
                        "1e299",
                        "null"),
                new Neighbours("numeric(12,2)", "1.50", "1.51", "-1.50", "150", "'NaN'", "0", "null"),
                new Neighbours("text", "''", "' '", "'a'", "'A'", "'a '", "'á'", "E'a\\u0301'", "'null'", "null"),
                new Neighbours("character varying(9)", "''", "' '", "'a'", "'a '", "'A'", "null"),
                new Neighbours("character(9)", "'a'", "'A'", "''", "null"),
                new Neighbours(
                        "date",
                        "'2000-01-01'",
                        "'2000-01-02'",
                        "'0044-03-15 BC'",
                        "'0044-03-15'",
                        "'infinity'",
                        "'-infinity'",
                        "'4714-11-24 BC'",
                        "'294277-01-01'",
                        "'5874897-12-31'",
                        "null"),
                new Neighbours(
                        "time",
                        "'00:00'",
                        "'01:11:34.967296'",
                        "'01:11:34.967295'",
                        "'01:11:34.967297'",
                        "'00:00:00.000001'",
                        "'23:59:59.999999'",
                        "null"),
                new Neighbours(
                        "timestamp",
                        "'2000-01-01'",
                        "'2000-01-01 00:00:00.000001'",
                        "'1999-12-31'",
                        "'2000-01-01 01:11:34.967296'",
                        "'2000-01-01 01:11:34.967297'",
                        "'1999-12-31 22:48:25.032704'",
                        "'1999-12-31 22:48:25.032705'",
                        "'4714-11-24 00:00:00 BC'",
                        "'4714-11-24 00:00:00.000001 BC'",
                        "'4714-11-24 01:11:34.967296 BC'",
                        "'-infinity'",
                        "'infinity'",
                        "'9999-12-31 23:59:59.999999'",
                        "'9999-12-31 23:59:59.999998'",
                        "null"),
                new Neighbours(
                        "timestamptz",
                        "'2000-01-01 00:00Z'",
                        "'2000-01-01 00:00+02'",
                        "'2000-01-01 01:11:34.967296Z'",
                        "'2000-01-01 01:11:34.967297Z'",
                        "'4714-11-24 00:00:00Z BC'",
                        "'infinity'",
                        "'-infinity'",
                        "null"),
                new Neighbours(
                        "uuid", "'6f1d2c3b-0a49-4e58-8d67-000000000001'", "'6f1d2c3b-0a49-4e58-8d67-000000000010'"),
                new Neighbours("bytea", "''", "'\\x00'", "'\\x0000'", "'\\xff'", "null"),
                new Neighbours("json", "'{\"a\": 1}'", "'{\"a\": 1.5}'", "'null'", "null"),
                new Neighbours("jsonb", "'{\"a\": 1}'", "'{\"a\": 1.5}'", "'null'", "null"),
                new Neighbours("mood", "'calm'", "'Calm'", "null"),
                new Neighbours("label", "'fern'", "'Fern'", "'fern '", "null"),
                new Neighbours("text collate anycase", "'fern'", "'Fern'", "'FERN'", "null"),
                new Neighbours("interval", false, List.of("'1 month'", "'30 days'", "'720 hours'", "null")),
                new Neighbours("double precision[]", false, List.of("'{0}'", "'{}'", "'{null}'", "null")),
                new Neighbours("xml", false, List.of("'<a/>'", "'<a></a>'", "'<b/>'", "null")));
    }

    @Test
    void onlyWhatIsEqualIsEqual() throws Exception {
        List<String> atOne = new ArrayList<>(TYPES);
        List<String> atOther = new ArrayList<>(TYPES);
        Set<String> hashed = new HashSet<>();
        List<Neighbours> all = neighbours().toList();
        for (Neighbours neighbours : all) {
            List<String> values = neighbours.values().stream()
                    .filter(v -> !ONLY_POSTGRES.contains(v))
                    .toList();
            for (int i = 0; i < values.size(); i++) {
                String next = values.get((i + 1) % values.size());
                for (String kind : List.of("same", "unlike")) {
                    String table = kind + atOne.size();
                    if (neighbours.hashed() && kind.equals("same")) {
                        hashed.add(table);
                    }
                    String create = "create table " + table + " (id integer primary key, v " + neighbours.type()
                            + "); insert into " + table + " values ";
                    atOne.add(create + "(1, null), (2, " + values.get(i) + ")");
                    atOther.add(create + "(2, " + (kind.equals("same") ? values.get(i) : next) + "), (1, null)");
                }
            }
        }
        String one = Servers.newPostgres();
        String other = Servers.newPostgres();
        Databases.run(one, atOne.toArray(String[]::new));
        Databases.run(other, atOther.toArray(String[]::new));
        ReconcileResult asked = compared(one, other, r -> r.byServers(true));
        assertThat(asked.tables()).hasSizeGreaterThan(200).allSatisfy(table -> {
            String name = table.table().name();
            assertThat(table.verdict()).as(name).isEqualTo(name.startsWith("same") ? Verdict.EQUAL : Verdict.DIFFERENT);
            assertThat(table.isByServers()).as(name).isEqualTo(hashed.contains(name));
        });
        assertThat(verdicts(compared(one, other, r -> r))).isEqualTo(verdicts(asked));
    }

    private static List<Verdict> verdicts(ReconcileResult result) {
        return result.tables().stream().map(ComparedTable::verdict).toList();
    }

    /** One by one, with seeds of all kinds. */
    @Test
    void eachValueHasADigestOfItsOwn() throws Exception {
        List<Neighbours> all = neighbours().filter(Neighbours::hashed).toList();
        List<String> statements = new ArrayList<>(TYPES);
        for (int i = 0; i < all.size(); i++) {
            String table = "bed" + i;
            statements.add("create table " + table + " (id integer primary key, v "
                    + all.get(i).type() + ")");
            for (String value : all.get(i).values()) {
                statements.add("insert into " + table + " select count(*), " + value + " from " + table);
            }
        }
        String url = Servers.newPostgres();
        Databases.run(url, statements.toArray(String[]::new));
        try (Place place = Places.open(url)) {
            OwnDigests digests = place.ownDigests().orElseThrow();
            for (int i = 0; i < all.size(); i++) {
                Slice whole = new Slice(TableChoice.one(place, "bed" + i), List.of("v"));
                for (long seed : new long[] {0, 1, -1, Long.MIN_VALUE, 0x7D5A_3C19_00FF_1234L}) {
                    Map<Tally, String> seen = new HashMap<>();
                    List<String> values = all.get(i).values();
                    for (int row = 0; row < values.size(); row++) {
                        assertThat(seen.put(digests.of(within(whole, row, row + 1), seed), values.get(row)))
                                .as(all.get(i).type() + " " + values.get(row))
                                .isNull();
                    }
                }
            }
        }
    }

    /** What isn't written alike may be worth the same all the same, whoever finds it out. */
    @Test
    void whatIsWorthTheSameIsEqualWhicheverWay() throws Exception {
        String from = Servers.newPostgres();
        String to = Servers.newPostgres();
        Databases.run(
                from,
                "create table bed (id smallint primary key, n numeric, t varchar(40), d timestamp(0), f real, j jsonb)",
                "insert into bed values (1, 1.50, 'moss', '2031-04-09 07:30', 0.5, '{\"a\": 1.0}')");
        Databases.run(
                to,
                "create table bed (id integer primary key, n numeric(9,4), t text, d timestamp(6), f real, j jsonb)",
                "insert into bed values (1, 1.5, 'moss', '2031-04-09 07:30', 0.5, '{\"a\": 1.0}')");
        assertThat(both(from, to, "bed").isByServers()).isTrue();
        Databases.run(to, "alter table bed alter f type double precision, alter d type timestamptz");
        assertThat(both(from, to, "bed").isByServers()).isFalse();
    }

    @Test
    void sameValuesInOtherRecordsAreOthers() throws Exception {
        String from = Servers.newPostgres();
        String to = Servers.newPostgres();
        for (String url : List.of(from, to)) {
            Databases.run(url, "create table bed (a text, b text)", "create table row (a text)");
        }
        Databases.run(from, "insert into bed values ('x', 'y'), ('p', 'q')", "insert into row values (1), (1), (2)");
        Databases.run(to, "insert into bed values ('x', 'q'), ('p', 'y')", "insert into row values (1), (2), (2)");
        assertThat(both(from, to, "bed").isByServers()).isFalse();
        assertThat(both(from, to, "row").isByServers()).isFalse();
        Databases.run(
                to,
                "update bed set b = case b when 'q' then 'y' else 'q' end",
                "update row set a = 1 where ctid = '(0,2)'");
        assertThat(both(from, to, "bed").isByServers()).isTrue();
        assertThat(both(from, to, "row").isByServers()).isTrue();
        Databases.run(to, "update bed set a = b, b = a");
        assertThat(both(from, to, "bed").isByServers()).isFalse();
    }

    /** Pairs of records, each beside another in which two values have changed places, with or without others beside them. */
    @ParameterizedTest
    @ValueSource(strings = {"integer", "bigint", "text", "numeric", "timestamp", "float8"})
    void exchangedValuesAreNeverTheSame(String type) throws Exception {
        String from = Servers.newPostgres();
        String x =
                "(" + (type.equals("timestamp") ? "timestamp '2031-04-09' + %s * interval '1 s'" : "%s") + ")::" + type;
        String values = String.format(Locale.ROOT, x + ", " + x, "a", "b");
        Databases.run(
                from,
                "create table bed (id integer primary key, x " + type + ", y " + type + ")",
                "insert into bed select 4 * i, " + values
                        + " from (select i, i * 7 a, i * 3 b from generate_series(1, 150) i)",
                "insert into bed select 4 * i + 1, " + values
                        + " from (select i, i a, i * 11 b from generate_series(1, 150) i)",
                "insert into bed select 4 * i + 2, " + values
                        + " from (select i, i a, i * 3 b from generate_series(1, 150) i)",
                "insert into bed select 4 * i + 3, " + values
                        + " from (select i, i * 7 a, i * 11 b from generate_series(1, 150) i)");
        try (Place place = Places.open(from)) {
            OwnDigests digests = place.ownDigests().orElseThrow();
            Slice all = new Slice(place.tables().get(0), List.of("x", "y"));
            for (int i = 1; i <= 150; i++) {
                assertThat(digests.of(within(all, 4 * i, 4 * i + 2), i))
                        .isNotEqualTo(digests.of(within(all, 4 * i + 2, 4 * i + 4), i));
            }
        }
    }

    private static Slice within(Slice all, int at, int to) {
        return all.within(
                new KeyRange(List.of("id"), List.of(Integer.toString(at)), List.of(Integer.toString(to)), false));
    }

    static LongStream seeds() {
        return LongStream.range(0, Integer.getInteger("ferry.definitions", 4))
                .map(seed -> Long.getLong("ferry.seed", 11) * 1_000 + seed);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void generatedTablesAreEqualWhicheverWay(long seed) throws Exception {
        String from = Servers.newPostgres();
        String to = Servers.newPostgres();
        for (String url : List.of(from, to)) {
            try (TargetPlace target = Places.openTarget(url)) {
                Load.from(new GeneratedRows(seed).fill(new GeneratedTables(seed).some(6), 80))
                        .into(target);
            }
        }
        ReconcileResult asked = compared(from, to, r -> r.depth(Depth.ROWS).byServers(true));
        assertThat(asked.isEqual()).isTrue();
        assertThat(asked.tables()).anyMatch(ComparedTable::isByServers).allSatisfy(t -> assertThat(t.rows())
                .contains(RowCounts.NONE));
    }

    @Test
    void digestsAreOthersEachTime() throws Exception {
        String one = Servers.newPostgres();
        String other = Servers.newPostgres();
        Databases.run(one, "create table herb as select i id, 'moss ' || i label from generate_series(1, 50) i");
        Databases.run(other, "create table herb as select i id, 'moss ' || i label from generate_series(50, 1, -1) i");
        ComparedTable first = both(one, other, "herb");
        ComparedTable second = both(one, other, "herb");
        assertThat(first.isByServers()).isTrue();
        assertThat(first.sourceDigest()).isEqualTo(first.targetDigest()).isNotEqualTo(second.sourceDigest());
    }

    /** Cut into slices, over several connections of one moment, with one record another one. */
    @ParameterizedTest
    @ValueSource(ints = {1, 3})
    void slicesAddUp(int lanes) throws Exception {
        String from = Servers.newPostgres();
        String to = Servers.newPostgres();
        for (String url : List.of(from, to)) {
            Databases.run(
                    url,
                    "create table \"odd \"\" bed\" (\"i\"\"d\" integer primary key, \"select\" text)",
                    "insert into \"odd \"\" bed\" select i * 3, 'moss ' || i from generate_series(-5000, 5000) i");
        }
        UnaryOperator<Reconcile> how =
                r -> r.byServers(true).lanes(lanes).sliceRows(700).depth(Depth.ROWS);
        assertThat(only(compared(from, to, how)))
                .matches(ComparedTable::isByServers)
                .satisfies(t -> assertThat(t.targetRows()).hasValue(10_001));
        Databases.run(to, "update \"odd \"\" bed\" set \"select\" = 'fern' where \"i\"\"d\" = 3333");
        assertThat(only(compared(from, to, how)).rows()).contains(new RowCounts(0, 0, 1));
    }

    @ParameterizedTest
    @ValueSource(strings = {"integer", "bigint", "timestamptz"})
    void asManyColumnsAsThereCanBe(String type) throws Exception {
        String value = type.equals("timestamptz") ? "'2031-04-09 07:30Z'" : "-5";
        String columns =
                IntStream.range(0, 1600).mapToObj(i -> "c" + i + " " + type).collect(Collectors.joining(","));
        String from = Servers.newPostgres();
        String to = Servers.newPostgres();
        for (String url : List.of(from, to)) {
            Databases.run(
                    url,
                    "create table bed (" + columns + ")",
                    "insert into bed (c0, c1599) values (" + value + ", " + value + ")");
        }
        assertThat(both(from, to, "bed").isByServers()).isTrue();
    }

    /** The same bytes are another text there. */
    @Test
    void whatIsOfAnotherEncodingIsRead() throws Exception {
        String to = Servers.newPostgres();
        String name = "western_" + to.replaceAll(".*/|\\?.*", "");
        Databases.run(to, "create database " + name + " encoding 'LATIN1' locale 'C' template template0");
        String western = to.replaceAll("/[^/?]*\\?", "/" + name + "?");
        String from = Servers.newPostgres();
        Databases.run(from, "create table bed (note text)", "insert into bed values (U&'\\00e9')");
        Databases.run(western, "create table bed (note text)", "insert into bed values (U&'\\00c3\\00a9')");
        assertThat(both(from, western, "bed").isByServers()).isFalse();
        Databases.run(western, "update bed set note = U&'\\00e9'");
        assertThat(both(from, western, "bed").isByServers()).isFalse();
    }

    /** Whom a server doesn't let use its hashes reads. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "hash_record_extended(record, bigint)",
                "hashtextextended(text, bigint)",
                "date_bin(interval, timestamp, timestamp)"
            })
    void whoMayNotUseThemReads(String function) throws Exception {
        String from = Servers.newPostgres();
        String name = "gardener_" + from.replaceAll(".*/|\\?.*", "");
        Databases.run(
                from,
                "create table bed as select i id, 'moss' label from generate_series(1, 9) i",
                "create role " + name + " login",
                "grant select on bed to " + name);
        String theirs = from.replace("user=postgres", "user=" + name);
        assertThat(only(compared(theirs, from, r -> r.byServers(true))).isByServers())
                .isTrue();
        Databases.run(from, "revoke execute on function pg_catalog." + function + " from public");
        assertThat(both(theirs, from, "bed").isByServers()).isFalse();
    }

    /** Whoever asks for what only values tell has them read. */
    @Test
    void valuesAreReadWhereTheyAreNeeded() throws Exception {
        String from = Servers.newPostgres();
        Databases.run(from, "create table bed as select i id, 'moss' label from generate_series(1, 9) i");
        List<UnaryOperator<Reconcile>> ways = new ArrayList<>();
        ways.add(r -> r.totals(true));
        ways.add(r -> r.serverTotals(true));
        ways.add(r -> r.sample(new BigDecimal(50)));
        ways.add(r -> r.keep(folder.resolve("kept")));
        ways.add(r -> r.pace(1_000_000, 0));
        ways.add(r -> r.pace(0, 1_000_000));
        ways.add(r -> r.depth(Depth.COUNTS));
        for (UnaryOperator<Reconcile> way : ways) {
            ReconcileResult result = compared(from, from, r -> way.apply(r.byServers(true)));
            assertThat(result.tables()).singleElement().matches(t -> !t.isByServers());
            assertThat(result.isWithoutDifference()).isTrue();
        }
        assertThat(only(compared(from, from, r -> r))).matches(t -> !t.isByServers());
    }

    /** A column that only one side has makes tables different, whatever the others hold. */
    @Test
    void columnsOfOneSideAreDifferences() throws Exception {
        String from = Servers.newPostgres();
        String to = Servers.newPostgres();
        Databases.run(from, "create table bed as select 1 id, 'moss' label");
        Databases.run(to, "create table bed as select 1 id");
        assertThat(both(from, to, "bed").onlyAtSource()).containsExactly("label");
    }

    /** What the server is at is ended there. */
    @Test
    @Timeout(60)
    void stopsWhenTold() throws Exception {
        String from = Servers.newPostgres();
        Databases.run(from, "create table bed (id integer)");
        StopSignal stop = new StopSignal();
        try (Connection connection = Databases.connect(from);
                Statement statement = connection.createStatement();
                Place a = Places.open(from);
                Place b = Places.open(from)) {
            OwnDigests digests = a.ownDigests().orElseThrow();
            TableName bed = a.tables().get(0);
            assertThat(digests.form(bed, List.of("id"))).isPresent();
            connection.setAutoCommit(false);
            statement.execute("lock table bed");
            CompletableFuture<Tally> taken =
                    CompletableFuture.supplyAsync(() -> digests.of(Slice.whole(a.define(bed)), 7));
            while (Databases.rows(
                            from,
                            "select 1 from pg_stat_activity where wait_event_type = 'Lock' and query like '%hashint4extended%'")
                    .isEmpty()) {
                assertThat(taken.isDone()).isFalse();
                Thread.sleep(20);
            }
            stop.stop();
            a.cancel();
            assertThatThrownBy(() -> taken.get(20, TimeUnit.SECONDS)).hasMessageContaining("bed");
            assertThatThrownBy(() -> Reconcile.between(a, b)
                            .byServers(true)
                            .stopSignal(stop)
                            .compare())
                    .isInstanceOf(StoppedException.class);
        }
    }
}
