package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.place.OwnDigests;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.reconcile.ChangeCount;
import org.orderlyferry.reconcile.ChangedRecords;
import org.orderlyferry.reconcile.MissingKeys;
import org.orderlyferry.reconcile.RecordSum;
import org.orderlyferry.reconcile.TargetDigest;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;

/** Records that have changed are the same ones, whether values tell them or the servers' own digests. */
class ChangedByServersTest {

    private static final long SEED = -7_340_033L;

    /** What comes, what is gone, and what was counted. */
    private record Found(List<String> records, List<String> gone, ChangeCount count, OptionalLong seed) {

        static Found of(String from, String to, boolean byServers, long rows) {
            try (Place source = Places.open(from);
                    Place target = Places.open(to)) {
                List<String> gone = new ArrayList<>();
                ChangedRecords changed = new ChangedRecords(source, target, (key, batch) -> add(batch, gone));
                if (byServers) {
                    changed.byServers(SEED);
                }
                TableName table = source.tables().get(0);
                List<String> records = new ArrayList<>();
                List<Slice> slices = changed.cut(source.define(table), source.count(table), new Cut(rows, Map.of()));
                for (Slice slice : slices) {
                    RecordBatch batch = new RecordBatch();
                    try (RecordReader reader = changed.read(slice)) {
                        while (reader.read(batch)) {
                            add(batch, records);
                        }
                    }
                }
                Collections.sort(records);
                Collections.sort(gone);
                return new Found(records, gone, changed.counts().get(table), changed.seed(table));
            }
        }

        private static void add(RecordBatch batch, List<String> into) {
            for (int row = 0; row < batch.rows(); row++) {
                int of = row;
                into.add(IntStream.range(0, batch.columns())
                        .mapToObj(column -> batch.text(of, column))
                        .toList()
                        .toString());
            }
        }
    }

    static Stream<Arguments> keysAndSlices() {
        return Stream.of(
                        "id bigint, primary key (id)",
                        "id smallint, sort date default '2031-04-09', primary key (sort, id)",
                        "id int, label text default 'moss', primary key (label, id)",
                        "id int, key text generated always as ('k' || id::text) stored, primary key (key)")
                .flatMap(key -> Stream.of(60L, 100_000L).map(rows -> Arguments.of(key, rows)));
    }

    @ParameterizedTest
    @MethodSource("keysAndSlices")
    void theSameRecordsHaveChanged(String key, long rows) throws Exception {
        String from = Servers.newPostgres();
        String to = Servers.newPostgres();
        for (String url : List.of(from, to)) {
            Databases.run(
                    url,
                    "create table bed (note text, " + key + ")".replace(", primary", ", n numeric(9,2), primary"),
                    "insert into bed (id, note) select i, 'moss ' || i from generate_series(-500, 500) i");
        }
        List<String> changes = List.of(
                "select 1",
                "update bed set note = 'last' where id = 500",
                "update bed set note = null where id = 7",
                "update bed set note = '' where id in (7, 8, -500, 500)",
                "delete from bed where id between 100 and 104",
                "insert into bed (id, note) select i, 'fern' from generate_series(501, 560) i",
                "update bed set note = note || 'x' where id > -200");
        for (String change : changes) {
            Databases.run(from, change);
            Found asked = Found.of(from, to, true, rows);
            Found read = Found.of(from, to, false, rows);
            assertThat(asked.seed()).hasValue(SEED);
            assertThat(read.seed()).isEmpty();
            assertThat(asked.records()).as(change).isEqualTo(read.records());
            assertThat(asked.gone()).isEqualTo(read.gone());
            assertThat(List.of(
                            asked.count().inserted(),
                            asked.count().updated(),
                            asked.count().unchanged(),
                            asked.count().missing(),
                            asked.count().after().rows(),
                            asked.count().gone().rows()))
                    .isEqualTo(List.of(
                            read.count().inserted(),
                            read.count().updated(),
                            read.count().unchanged(),
                            read.count().missing(),
                            read.count().after().rows(),
                            read.count().gone().rows()));
        }
        // reckoned from both sides, and what the source has but for what is only at the target
        try (Place source = Places.open(from);
                Place target = Places.open(to)) {
            TableName bed = source.tables().get(0);
            Found asked = Found.of(from, to, true, rows);
            RecordSum is = TargetDigest.of(source, source, bed, SEED).orElseThrow();
            assertThat(asked.count().after().minus(asked.count().gone())).isEqualTo(is);
            assertThat(TargetDigest.of(source, target, bed, SEED))
                    .isPresent()
                    .get()
                    .isNotEqualTo(is);
        }
    }

    /** Values that PostgreSQL's hashes know nothing of are read. */
    @Test
    void otherTypesAreRead() throws Exception {
        String from = Servers.newPostgres();
        String to = Servers.newPostgres();
        for (String url : List.of(from, to)) {
            Databases.run(
                    url,
                    "create table bed (id int primary key, t interval)",
                    "insert into bed values (1, '1 month'), (2, '1 day')");
        }
        Databases.run(from, "update bed set t = '30 days' where id = 1");
        Found found = Found.of(from, to, true, 10);
        assertThat(found.seed()).isEmpty();
        assertThat(found.count().updated()).isEqualTo(1);
    }

    /** What had to become null on its way is told, also by a catch-up, and isn't a change each time. */
    @Test
    void whatBecomesNullIsToldAndIsNoChange() throws Exception {
        String from = Servers.newPostgres();
        String to = Servers.newPostgres();
        for (String url : List.of(from, to)) {
            Databases.run(url, "create table bed (id int primary key, day date)", "insert into bed values (1, null)");
        }
        Databases.run(from, "update bed set day = 'infinity'", "insert into bed values (2, '-infinity')");
        OpenOptions options = OpenOptions.builder().outOfRange(OutOfRange.NULL).build();
        try (Place source = Places.open(PlaceAddress.of(from), options);
                Place target = Places.open(to)) {
            ChangedRecords changed = new ChangedRecords(source, target, MissingKeys.UNHEARD).byServers(SEED);
            try (RecordReader reader =
                    changed.read(Slice.whole(source.define(source.tables().get(0))))) {
                RecordBatch batch = new RecordBatch();
                assertThat(reader.read(batch)).isTrue();
                assertThat(batch.rows()).isEqualTo(1);
                assertThat(batch.text(0, 0)).isEqualTo("2");
                assertThat(reader.read(batch)).isFalse();
                assertThat(reader.findings()).singleElement().satisfies(f -> assertThat(f.text())
                        .contains("infinity"));
            }
        }
    }

    /** A server that gives none of the records that were picked. */
    private static final class Forgetful extends ForwardingPlace {
        Forgetful(Place place) {
            super(place);
        }

        @Override
        public Optional<OwnDigests> ownDigests() {
            return place().ownDigests().map(own -> new OwnDigests() {
                @Override
                public Optional<String> form(TableName table, List<String> columns) {
                    return own.form(table, columns);
                }

                @Override
                public Tally of(Slice slice, long seed) {
                    return own.of(slice, seed);
                }

                @Override
                public RecordReader read(Slice slice, List<String> key, long seed) {
                    return own.read(slice, key, seed);
                }

                @Override
                public RecordReader pick(Slice slice, Restriction which, Rejects rejects) {
                    return own.pick(slice, new Restriction.Compared("id", Restriction.Comparison.EQUAL, "-1"), rejects);
                }
            });
        }
    }

    @Test
    void recordsThatAreGoneWhenTheyArePickedAreTold() throws Exception {
        String from = Servers.newPostgres();
        String to = Servers.newPostgres();
        for (String url : List.of(from, to)) {
            Databases.run(
                    url,
                    "create table bed as select i id from generate_series(1, 500) i",
                    "alter table bed add primary key (id)");
        }
        Databases.run(to, "delete from bed where id < 4");
        try (Place source = new Forgetful(Places.open(from));
                Place target = Places.open(to)) {
            ChangedRecords changed = new ChangedRecords(source, target, (key, batch) -> {}).byServers(SEED);
            TableName bed = source.tables().get(0);
            try (RecordReader reader = changed.read(Slice.whole(source.define(bed)))) {
                assertThatThrownBy(() -> reader.read(new RecordBatch()))
                        .isInstanceOf(PlaceException.class)
                        .hasMessageContaining("3 of the 3 records of table bed that have changed aren't there");
            }
        }
    }
}
