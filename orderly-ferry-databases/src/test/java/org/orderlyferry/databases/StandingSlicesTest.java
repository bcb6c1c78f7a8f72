package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.PlanFile;
import org.orderlyferry.work.TransferResult;

/** Tables that are cut by where their records stand, since those that follow each other by the key stand anywhere. */
class StandingSlicesTest {

    private static final int ROWS = 3_000;
    private static final Cut ANY = new Cut(300, Map.of(), Cut.Standing.WHERE_SCATTERED);

    @TempDir
    private Path folder;

    private String url;

    @BeforeEach
    void make() throws Exception {
        assumeThat(TestSystem.names()).contains("PostgreSQL");
        url = TestSystem.POSTGRESQL.fresh(folder);
        Databases.run(
                url,
                "create table specimen (id uuid primary key, number integer, note text)",
                "insert into specimen select gen_random_uuid(), n, repeat('leaf ', 40) from generate_series(1, " + ROWS
                        + ") n",
                "create table loan (herbarium text, number integer, primary key (herbarium, number))",
                "insert into loan select 'H' || n * 7919 % 101, n from generate_series(1, " + ROWS + ") n",
                "create table counted (id integer primary key, note text)",
                "insert into counted select n, 'note' from generate_series(1, " + ROWS + ") n",
                "create table keyless (note text)",
                "insert into keyless select 'note ' || n % 17 from generate_series(1, " + ROWS + ") n",
                "create table parent (id uuid primary key)",
                "create table child () inherits (parent)",
                "insert into child select gen_random_uuid() from generate_series(1, " + ROWS + ") n",
                "create table own (id uuid primary key)",
                "insert into own select gen_random_uuid() from generate_series(1, " + ROWS + ") n",
                "alter table own enable row level security",
                "create table part (id uuid primary key) partition by hash (id)",
                "create table part_1 partition of part for values with (modulus 2, remainder 0)",
                "create table part_2 partition of part for values with (modulus 2, remainder 1)",
                "insert into part select gen_random_uuid() from generate_series(1, " + ROWS + ") n",
                "analyze");
    }

    @ParameterizedTest
    @CsvSource({
        "specimen, ctid",
        "loan, ctid",
        "keyless, ctid",
        "child, ctid",
        "counted, id",
        "parent, id",
        "own, id",
        "part, id"
    })
    void eachRecordIsInOneSlice(String name, String by) throws Exception {
        try (Place place = Places.open(url)) {
            List<Slice> slices = place.cut(place.define(TableName.of(name)), ROWS, ANY);
            assertThat(slices)
                    .hasSizeGreaterThan(1)
                    .allMatch(s -> s.range().columns().get(0).equals(by));
            assertThat(slices).allMatch(s -> s.range().standing() == by.equals("ctid"));
            assertThat(read(place, slices))
                    .containsExactlyInAnyOrderElementsOf(Databases.rows(url, "SELECT * FROM " + name));
        }
    }

    /** What others change and take away meanwhile, and the room that is made thereby, changes nothing of what is seen. */
    @Test
    void recordsThatMoveMeanwhileAreSeenWhereTheyStood() throws Exception {
        List<String> before = Databases.rows(url, "SELECT * FROM specimen");
        try (Place place = Places.open(url)) {
            List<Slice> slices = place.cut(place.define(TableName.of("specimen")), ROWS, ANY);
            List<String> seen = new ArrayList<>(read(place, slices.subList(0, 4)));
            Databases.run(
                    url,
                    "update specimen set note = 'moved' where number % 2 = 0",
                    "delete from specimen where number % 7 = 0",
                    "insert into specimen select gen_random_uuid(), n, 'new' from generate_series(1, 500) n");
            seen.addAll(read(place, slices.subList(4, slices.size())));
            assertThat(seen).containsExactlyInAnyOrderElementsOf(before);
        }
    }

    /** The right to read some columns isn't one to read where records stand. */
    @Test
    void whoMayReadOnlySomeColumnsCutsByTheKey() throws Exception {
        String role = "reader_" + Long.toString(System.nanoTime(), 36);
        Databases.run(url, "create role " + role + " login", "grant select (id, number) on specimen to " + role);
        try (Place place = Places.open(url.replaceFirst("user=\\w+", "user=" + role))) {
            TableDefinition specimen = place.define(TableName.of("specimen"));
            assertThat(place.cut(specimen, ROWS, ANY)).hasSizeGreaterThan(1).noneMatch(s -> s.range()
                    .standing());
        } finally {
            Databases.run(url, "drop owned by " + role, "drop role " + role);
        }
    }

    /** A session lets go of its locks where there are many tables, and then others may put records elsewhere. */
    @Test
    void recordsThatArePutElsewhereMeanwhileAreNotTakenForOthers() throws Exception {
        Databases.run(
                url,
                "do $$ begin for i in 1..210 loop execute 'create table t' || i || ' (id integer)'; end loop; end $$");
        try (Place place = Places.open(url)) {
            List<Slice> slices = place.cut(place.define(TableName.of("specimen")), ROWS, ANY);
            read(place, slices.subList(0, 2));
            // lets go
            for (int i = 1; i <= 60; i++) {
                place.count(TableName.of("t" + i));
            }
            Databases.run(url, "delete from specimen where number < 2000", "vacuum full specimen");
            assertThatThrownBy(() -> read(place, slices.subList(2, 3)))
                    .isInstanceOf(PlaceException.class)
                    .hasMessageContaining("was written anew while it was read");
        }
    }

    @Test
    void whoeverReadsInSeveralStatesCutsByTheKey() {
        try (Place place = Places.open(url)) {
            TableDefinition specimen = place.define(TableName.of("specimen"));
            assertThat(place.cut(specimen, ROWS, new Cut(300, Map.of())))
                    .hasSizeGreaterThan(9)
                    .noneMatch(s -> s.range().standing());
            assertThat(place.cut(place.define(TableName.of("keyless")), ROWS, new Cut(300, Map.of())))
                    .hasSize(1);
            Cut keyless = new Cut(300, Map.of(), Cut.Standing.WITHOUT_A_KEY);
            assertThat(place.cut(specimen, ROWS, keyless)).hasSizeGreaterThan(9).noneMatch(s -> s.range()
                    .standing());
            assertThat(place.cut(place.define(TableName.of("keyless")), ROWS, keyless))
                    .hasSizeGreaterThan(1)
                    .allMatch(s -> s.range().standing());
            Cut chosen = new Cut(300, Map.of(specimen.name(), "number"), Cut.Standing.WHERE_SCATTERED);
            assertThat(place.cut(specimen, ROWS, chosen))
                    .allMatch(s -> s.range().columns().equals(List.of("number")));
        }
        try (Place place = Places.openTarget(url)) {
            assertThat(place.cut(place.define(TableName.of("specimen")), ROWS, ANY))
                    .as("who may write sees what has come meanwhile")
                    .noneMatch(s -> s.range().standing());
        }
    }

    /** A range comes from a plan, which somebody may have written. */
    @ParameterizedTest
    @ValueSource(strings = {"(1,0)' or true; drop table specimen; --", "", "(x,0)", "(99999999999,0)"})
    void whatIsNoPlaceIsRefused(String odd) throws Exception {
        try (Place place = Places.open(url)) {
            Slice whole = Slice.whole(place.define(TableName.of("specimen")));
            for (KeyRange range : List.of(
                    KeyRange.standing("ctid", List.of(odd), List.of()),
                    KeyRange.standing("xmin", List.of("(1,0)"), List.of()),
                    new KeyRange(List.of("ctid"), List.of("(1,0)"), List.of(), false))) {
                assertThatThrownBy(() -> read(place, List.of(whole.within(range))))
                        .isInstanceOf(org.orderlyferry.problem.FerryException.class);
            }
        }
        assertThat(Databases.rows(url, "SELECT COUNT(*) FROM specimen")).containsExactly(Integer.toString(ROWS));
    }

    @ParameterizedTest
    @CsvSource({
        "select 1, true",
        "vacuum full specimen, false",
        "update specimen set note = 'moved' where number < 5, false",
        "update specimen set note = 'moved' where number % 2 = 0, false"
    })
    void whatWasCutShortKeepsSlicesAsLongAsRecordsStandWhereTheyStood(String meanwhile, boolean kept) throws Exception {
        StopSignal stop = new StopSignal();
        assertThatThrownBy(() -> export(stop, new int[] {4})).isInstanceOf(StoppedException.class);
        Databases.run(url, meanwhile);
        TransferResult result = export(new StopSignal(), new int[] {Integer.MAX_VALUE});
        assertThat(result.findings().stream().anyMatch(f -> f.text().contains("went on from there")))
                .isEqualTo(kept);
        try (Place source = Places.open(url);
                Place set = Places.open(folder.resolve("set"))) {
            assertThat(Reconcile.between(source, set)
                            .tables("specimen")
                            .compare()
                            .isEqual())
                    .isTrue();
        }
    }

    /** Whether a table was written is told by reading all of it, which is for work that goes on. */
    @Test
    void whatBeginsIsNotLookedThroughFirst() {
        try (Place source = Places.open(url);
                Place unasked = new ForwardingPlace(source) {
                    @Override
                    public OptionalLong unwritten(TableName table, String mark) {
                        throw new IllegalStateException(table + " is read twice");
                    }
                }) {
            TransferResult result = Export.from(unasked)
                    .tables("specimen", "keyless")
                    .sliceRows(300)
                    .to(folder.resolve("unasked"));
            assertThat(result.tables()).hasSize(2);
        }
    }

    private TransferResult export(StopSignal stop, int[] left) {
        try (Place source = Places.open(url)) {
            return Export.from(source)
                    .tables("specimen")
                    .lanes(1)
                    .sliceRows(300)
                    .plan(new PlanFile(folder.resolve("plan.json"), PlanFile.Moments.STILL))
                    .stopSignal(stop)
                    .listener(new ProgressListener() {
                        @Override
                        public void sliceFinished(TableName table) {
                            if (--left[0] == 0) {
                                stop.stop();
                            }
                        }
                    })
                    .to(folder.resolve("set"));
        }
    }

    private static List<String> read(Place place, List<Slice> slices) {
        List<String> rows = new ArrayList<>();
        RecordBatch batch = new RecordBatch();
        for (Slice slice : slices) {
            try (RecordReader reader = place.read(slice)) {
                while (reader.read(batch)) {
                    for (int row = 0; row < batch.rows(); row++) {
                        int at = row;
                        rows.add(String.join(
                                " ",
                                IntStream.range(0, slice.columns().size())
                                        .mapToObj(c -> batch.text(at, c))
                                        .toList()));
                    }
                }
            }
        }
        return rows;
    }
}
