package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.exportset.ExportSet;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.reshape.Reshaping;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Conditions that a server applies itself: the same records as when all are looked at here, and the same numbers. */
class RestrictedReadingTest {

    private static final int ROWS = 1_200;
    private static final List<String> CONSTANTS = List.of(
            "whole < -3",
            "whole >= 12.5",
            "whole = 7",
            "whole <> 7",
            "exact > 0.125",
            "exact <= -99999999999999999999",
            "exact = 1.50",
            "day < '2031-03-01'",
            "day >= '2031-12-31'",
            "taken > '2031-02-03 04:05:06'",
            "taken <= '2031-02-03T04:05:06.5'",
            "taken = '2031-02-03 04:05:06.500000'",
            "taken < '2031-06-01'",
            "taken IS NULL",
            "whole IS NOT NULL",
            "day IS NULL",
            "whole IN (1, 2, 3, 500)",
            "exact IN (1.5, 2)",
            "text LIKE '%a%'",
            "text > 'm'",
            "text IN ('moss', 'fern')");

    @TempDir
    private Path folder;

    static Stream<String> systems() {
        return TestSystem.names();
    }

    private static ListedPlace records() {
        TableDefinition table = TableDefinition.named("reading")
                .column(ColumnDefinition.named("id", LogicalType.BIGINT)
                        .nullable(false)
                        .build())
                .column("whole", LogicalType.INTEGER)
                .column("exact", LogicalType.decimal(30, 4))
                .column("day", LogicalType.DATE)
                .column("taken", LogicalType.of(TypeName.TIMESTAMP, 6))
                .column("text", LogicalType.varchar(40))
                .primaryKey("id")
                .build();
        Random random = new Random(4711);
        List<List<String>> rows = new ArrayList<>();
        for (int i = 0; i < ROWS; i++) {
            List<String> row = new ArrayList<>();
            row.add(String.valueOf(i));
            row.add(random.nextInt(5) == 0 ? null : String.valueOf(random.nextInt(40) - 20));
            row.add(
                    random.nextInt(5) == 0
                            ? null
                            : List.of("1.5000", "0.1250", "-123456789012345678901234.0000", "2.0000", "0.0000")
                                    .get(random.nextInt(5)));
            row.add(
                    random.nextInt(5) == 0
                            ? null
                            : String.format("%04d-%02d-%02d", i % 50 == 0 ? 1 : 2031, 1 + i % 12, 1 + i % 28));
            row.add(
                    random.nextInt(5) == 0
                            ? null
                            : String.format("2031-%02d-03T04:05:06%s", 1 + i % 12, i % 3 == 0 ? ".5" : ""));
            row.add(
                    random.nextInt(5) == 0
                            ? null
                            : List.of("moss", "fern", "Moss", "", "ärzt").get(i % 5));
            rows.add(row);
        }
        return new ListedPlace().with(table, rows);
    }

    /** Some of them joined by AND, OR and NOT. */
    private static List<String> conditions() {
        List<String> all = new ArrayList<>(CONSTANTS);
        Random random = new Random(12);
        for (int i = 0; i < 120; i++) {
            String one = CONSTANTS.get(random.nextInt(CONSTANTS.size()));
            String other = all.get(random.nextInt(all.size()));
            all.add(
                    switch (random.nextInt(4)) {
                        case 0 -> "(" + one + ") AND (" + other + ")";
                        case 1 -> "(" + one + ") OR (" + other + ")";
                        case 2 -> "NOT (" + one + ")";
                        default -> "NOT ((" + one + ") OR (" + other + "))";
                    });
        }
        return all;
    }

    /** A place that leaves the conditions to whoever reads it; or that counts what it gives. */
    private static final class Watched extends ForwardingPlace {

        private final boolean restricts;
        private final AtomicLong given = new AtomicLong();

        Watched(Place place, boolean restricts) {
            super(place);
            this.restricts = restricts;
        }

        @Override
        public RecordReader readRestricted(Slice slice, Rejects rejects, Restriction restriction) {
            RecordReader reader = restricts ? super.readRestricted(slice, rejects, restriction) : read(slice, rejects);
            return new RecordReader() {
                @Override
                public TableDefinition table() {
                    return reader.table();
                }

                @Override
                public boolean read(RecordBatch batch) {
                    boolean more = reader.read(batch);
                    given.addAndGet(batch.rows());
                    return more;
                }

                @Override
                public long leftOut() {
                    return reader.leftOut();
                }

                @Override
                public void close() {
                    reader.close();
                }
            };
        }
    }

    private record Found(List<String> keys, long leftOut) {
        static Found of(Place place, String condition) {
            Place some = new Reshaping().where(condition).over(place, Rejects.STOP);
            TableName name = some.tables().get(0);
            List<String> keys = new ArrayList<>();
            RecordBatch batch = new RecordBatch();
            try (RecordReader reader = some.read(Slice.whole(some.define(name)))) {
                while (reader.read(batch)) {
                    for (int row = 0; row < batch.rows(); row++) {
                        keys.add(batch.text(row, 0));
                    }
                }
                keys.sort(null);
                return new Found(keys, reader.leftOut());
            }
        }
    }

    @ParameterizedTest
    @MethodSource("systems")
    void theSameRecordsAreGivenAndAsManyLeftOut(String system) {
        String url = TestSystem.of(system).fresh(folder);
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(records()).into(target);
        }
        long restricted = 0;
        try (Place place = Places.open(url)) {
            for (String condition : conditions()) {
                Watched here = new Watched(place, false);
                Watched there = new Watched(place, true);
                Found expected = Found.of(here, condition);
                assertThat(Found.of(there, condition)).as(condition).isEqualTo(expected);
                assertThat(expected.keys().size() + expected.leftOut())
                        .as(condition)
                        .isEqualTo(ROWS);
                restricted += there.given.get() < here.given.get() ? 1 : 0;
            }
        }
        // others leave all to whoever reads them
        boolean can = system.equals("PostgreSQL") || system.equals("MariaDB");
        assertThat(restricted)
                .matches(n -> can ? n > 50 : n == 0, "conditions that the server has applied: " + restricted);
    }

    @ParameterizedTest
    @CsvSource({"PostgreSQL, 1", "PostgreSQL, 3", "MariaDB, 3"})
    void anExportOfSeveralSlicesCountsWhatIsLeftOut(String system, int lanes) {
        String url = TestSystem.of(system).fresh(folder);
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(records()).into(target);
        }
        Path set = folder.resolve("set");
        try (Place place = Places.open(url)) {
            TransferResult result = Export.from(
                            new Reshaping().where("whole >= 15").over(place, Rejects.STOP))
                    .lanes(lanes)
                    .sliceRows(100)
                    .to(set);
            assertThat(result.rows() + result.leftOut()).isEqualTo(ROWS);
            assertThat(result.rows()).isBetween(50L, 300L);
            try (ExportSet written = ExportSet.open(set)) {
                assertThat(written.count(written.tables().get(0))).isEqualTo(result.rows());
            }
        }
    }

    @ParameterizedTest
    @MethodSource("systems")
    void aColumnOfAnotherTypeComparesAsThat(String system) {
        String url = TestSystem.of(system).fresh(folder);
        TableDefinition table = TableDefinition.named("sheet")
                .column("id", LogicalType.INTEGER)
                .column("code", LogicalType.varchar(20))
                .build();
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(new ListedPlace()
                            .with(table, List.of(List.of("1", "009"), List.of("2", "010"), List.of("3", "7"))))
                    .into(target);
        }
        try (Place place = Places.open(url)) {
            Place some =
                    new Reshaping().type("code", "INTEGER").where("code > 8").over(place, Rejects.STOP);
            assertThat(some.count(some.tables().get(0))).isEqualTo(2);
        }
    }

    /** What is read as null isn't null to the server. */
    @Test
    void valuesThatNoOtherSystemHasAreLookedAtHere() throws Exception {
        String url = Servers.newMaria();
        Databases.run(
                url,
                "SET sql_mode = ''",
                "CREATE TABLE sheet (id int PRIMARY KEY, day date)",
                "INSERT INTO sheet VALUES (1, '0000-00-00'), (2, NULL), (3, '2031-01-01')");
        try (Place place = Places.open(
                PlaceAddress.of(url),
                OpenOptions.builder().outOfRange(OutOfRange.NULL).build())) {
            assertThat(Found.of(place, "day IS NULL").keys()).containsExactly("1", "2");
            assertThat(Found.of(place, "day < '2030-01-01'").keys()).isEmpty();
            assertThat(Found.of(place, "day IS NOT NULL").keys()).containsExactly("3");
        }
    }

    /** Money, domains and enumerations compare in ways of their own, or not at all. */
    @Test
    void typesOfTheirOwnAreLookedAtHere() throws Exception {
        String url = Servers.newPostgres();
        Databases.run(
                url,
                "CREATE DOMAIN grams AS numeric(9, 2)",
                "CREATE TYPE state AS ENUM ('pressed', 'dried')",
                "CREATE TABLE sheet (id int PRIMARY KEY, price money, mass grams, state state, key uuid, mark \"char\")",
                "INSERT INTO sheet SELECT g, g * 1.5, g * 0.5, CASE g % 2 WHEN 0 THEN 'pressed' ELSE 'dried' END::state,"
                        + " ('00000000-0000-0000-0000-0000000000a' || g)::uuid, 'x' FROM generate_series(0, 9) g");
        try (Place place = Places.open(url)) {
            assertThat(Found.of(place, "mass >= 4").keys()).containsExactly("8", "9");
            assertThat(Found.of(place, "state = 'dried' AND id > 4").keys()).containsExactly("5", "7", "9");
            assertThat(Found.of(place, "key = '00000000-0000-0000-0000-0000000000A3'")
                            .keys())
                    .containsExactly("3");
            assertThat(IntStream.range(0, 3).mapToObj(i -> Found.of(place, "price IS NOT NULL AND id = " + i)
                            .keys()))
                    .containsExactly(List.of("0"), List.of("1"), List.of("2"));
        }
    }
}
