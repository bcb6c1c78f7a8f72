package org.orderlyferry.databases.driver;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TimeZone;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.generated.GeneratedRows;
import org.orderlyferry.testkit.generated.GeneratedTables;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.herbarium.HostileTexts;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Systems that nothing here knows but their drivers: Derby, HSQLDB and DuckDB. */
class DriverDialectTest {

    private static final int SEEDS = Integer.getInteger("ferry.definitions", 3);

    private static final AtomicInteger NUMBER = new AtomicInteger();

    @TempDir
    private static Path folder;

    @BeforeAll
    static void keepTheLogAway() {
        System.setProperty(
                "derby.stream.error.file", folder.resolve("derby.log").toString());
    }

    static Stream<String> systems() {
        return Stream.of("Apache Derby", "HSQL Database Engine");
    }

    static Stream<Arguments> systemsAndSeeds() {
        return systems().flatMap(s -> LongStream.range(0, SEEDS).mapToObj(seed -> Arguments.of(s, seed)));
    }

    private static String fresh(String system) {
        int number = NUMBER.incrementAndGet();
        return system.equals("Apache Derby")
                ? "jdbc:derby:memory:d" + number + ";create=true"
                : "jdbc:hsqldb:file:" + folder.resolve("h" + number) + ";user=SA";
    }

    private static ReconcileResult load(Place source, String url, LoadMode mode) {
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(source).mode(mode).into(target);
        }
        try (Place target = Places.open(url)) {
            return Reconcile.between(source, target).compare();
        }
    }

    static void assertEqual(Place one, Place other) {
        assertThat(Reconcile.between(one, other).compare().tables()).allSatisfy(t -> assertThat(t.verdict())
                .as("%s: %s", t.table(), t.differing())
                .hasToString("EQUAL"));
    }

    @ParameterizedTest
    @MethodSource("systems")
    void theHerbariumGoesThereAndComesBack(String system) throws Exception {
        Path old = folder.resolve("old" + NUMBER.incrementAndGet() + ".mv.db");
        new Herbarium().specimens(200).readings(1_500).commonDates(true).create(old);
        String url = fresh(system);
        try (Place source = Places.open(old)) {
            assertThat(load(source, url, LoadMode.CREATE).isEqual()).isTrue();
            try (Place target = Places.open(url)) {
                assertThat(target.system()).startsWith(system);
                TableDefinition specimen = target.define(TableName.of("specimen"));
                assertThat(specimen.primaryKey().orElseThrow().columns()).containsExactly("id");
                assertThat(specimen.foreignKeys()).hasSize(3);
                assertThat(specimen.column("id")
                                .orElseThrow()
                                .identity()
                                .orElseThrow()
                                .next())
                        .isEqualTo(201);
                assertThat(specimen.column("insured_value").orElseThrow().defaultValue())
                        .isPresent();
                assertThat(Reconcile.between(source, target)
                                .depth(Depth.ROWS)
                                .compare()
                                .isEqual())
                        .isTrue();
                Path back = folder.resolve("back" + NUMBER.incrementAndGet() + ".sqlite");
                Path set = folder.resolve("set" + NUMBER.incrementAndGet());
                Export.from(target).to(set);
                try (Place kept = Places.open(set);
                        TargetPlace again = Places.openTarget(back)) {
                    Load.from(kept).into(again);
                    assertEqual(source, again);
                }
            }
        }
    }

    @ParameterizedTest
    @MethodSource("systemsAndSeeds")
    void whateverIsLoadedIsEqualOrRefused(String system, long seed) {
        ListedPlace source = new GeneratedRows(seed).fill(new GeneratedTables(seed).some(3), 20);
        String url = fresh(system);
        try {
            ReconcileResult result = load(source, url, LoadMode.CREATE);
            assertThat(result.tables()).allSatisfy(t -> assertThat(t.verdict())
                    .as("%s: %s", t.table(), t.differing())
                    .hasToString("EQUAL"));
        } catch (FerryException e) {
            try (Place target = Places.open(url)) {
                assertThat(target.tables()).as("%s", e.getMessage()).isEmpty();
            }
        }
    }

    /** Each value in a table of its own: it comes back as it was, or is told with its column. */
    @ParameterizedTest
    @MethodSource("systems")
    void eachHostileValueComesBackOrIsTold(String system) {
        List<LogicalType> timed = List.of(
                LogicalType.DATE,
                LogicalType.of(TypeName.TIMESTAMP, 9),
                LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 6),
                LogicalType.of(TypeName.TIME, 9));
        ListedPlace source = new ListedPlace();
        List<List<String>> texts = new ArrayList<>();
        HostileTexts.ALL.forEach(t -> texts.add(List.of(t)));
        source.with(one("text", LogicalType.varchar(400)), texts);
        for (String number : List.of("NaN", "INF", "-INF", "-0.0", "4.9E-324", "1.7976931348623157E308", "0.1")) {
            source.with(one("number " + number, LogicalType.DOUBLE), List.of(List.of(number)));
        }
        for (String moment : List.of(
                "0001-01-01T00:00:00",
                "1582-10-04T23:59:59",
                "1582-10-10T12:00:00",
                "2031-03-30T02:30:00",
                "2031-10-26T02:30:00.123456789",
                "9999-12-31T23:59:59.999999")) {
            for (LogicalType type : timed) {
                String value =
                        switch (type.name()) {
                            case DATE -> moment.substring(0, 10);
                            case TIME -> moment.substring(11);
                            case TIMESTAMP -> moment;
                            default -> moment.replaceFirst("(\\.\\d{6})\\d+", "$1") + "Z";
                        };
                source.with(one(type + " " + moment, type), List.of(List.of(value)));
            }
        }
        TimeZone usual = TimeZone.getDefault();
        try {
            // where an hour is left out and another comes twice
            TimeZone.setDefault(TimeZone.getTimeZone("Europe/Berlin"));
            String url = fresh(system);
            if (system.equals("Apache Derby")) {
                assertThatThrownBy(() -> Places.openTarget(url))
                        .isInstanceOf(UsageException.class)
                        .hasMessageContaining("Europe/Berlin")
                        .hasMessageContaining("TZ=UTC");
                TimeZone.setDefault(TimeZone.getTimeZone("UTC"));
            }
            List<String> refused = new ArrayList<>();
            try (TargetPlace target = Places.openTarget(url)) {
                for (TableName table : source.tables()) {
                    try {
                        Load.from(source).tables(table.name()).into(target);
                    } catch (FerryException e) {
                        refused.add(table + ": " + e.getMessage());
                    }
                }
            }
            try (Place target = Places.open(url)) {
                for (TableName table : target.tables()) {
                    assertThat(Reconcile.between(source, target)
                                    .tables(table.name())
                                    .depth(Depth.ROWS)
                                    .compare()
                                    .tables())
                            .allSatisfy(t -> assertThat(t.verdict())
                                    .as("%s: %s %s", t.table(), t.differing(), t)
                                    .hasToString("EQUAL"));
                }
                assertThat(target.tables().size() + refused.size())
                        .isEqualTo(source.tables().size());
            }
            assertThat(refused).hasSizeLessThan(15).allMatch(r -> r.contains("column value") || r.contains("value = "));
        } finally {
            TimeZone.setDefault(usual);
        }
    }

    private static TableDefinition one(String name, LogicalType type) {
        return TableDefinition.named(TableName.of(name))
                .column(ColumnDefinition.of("value", type))
                .build();
    }

    private static ListedPlace beds(String... names) {
        return Beds.of(Optional.empty(), names);
    }

    @ParameterizedTest
    @MethodSource("systems")
    void aLoadThatIsTriedLeavesNothing(String system) {
        String url = fresh(system);
        TransferResult tried;
        try (Place source = Places.open(folder.resolve(small()).toString());
                TargetPlace target = Places.openTarget(url)) {
            tried = Load.from(source).rehearsal(true).into(target);
        }
        try (Place target = Places.open(url)) {
            assertThat(target.tables()).isEmpty();
        }
        boolean told = tried.findings().stream().anyMatch(f -> f.code() == FindingCode.DEFINITION_UNTRIED);
        assertThat(told).isEqualTo(system.startsWith("HSQL"));
    }

    /** A list of two plants. */
    private static String small() {
        try {
            return Files.writeString(
                            folder.resolve("plant" + NUMBER.incrementAndGet() + ".csv"), "id,name\n1,moss\n2,fern\n")
                    .toString();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @ParameterizedTest
    @MethodSource("systems")
    void tablesThatAreThereAreReplacedAddedToAndMergedInto(String system) {
        String url = fresh(system);
        assertThat(load(beds("1=moss", "2=fern"), url, LoadMode.CREATE).isEqual())
                .isTrue();
        load(beds("3=heath"), url, LoadMode.APPEND);
        load(beds("2=reed", "4=sedge"), url, LoadMode.MERGE);
        try (Place target = Places.open(url)) {
            assertEqual(beds("1=moss", "2=reed", "3=heath", "4=sedge"), target);
        }
        assertThatThrownBy(() -> load(beds("5=lichen", "4=moss"), url, LoadMode.APPEND))
                .isInstanceOf(FerryException.class);
        for (String name : List.of("7=first", "8=second")) {
            assertThat(load(beds(name), url, LoadMode.REPLACE).isEqual()).isTrue();
        }
        try (Place target = Places.open(url)) {
            assertThat(target.tables()).containsExactly(TableName.of("bed"), TableName.of("plant"));
            TableDefinition bed = target.define(TableName.of("bed"));
            assertThat(bed.primaryKey()).isPresent();
            assertThat(bed.uniqueKeys().size() + bed.indexes().size()).isEqualTo(2);
            assertThat(target.define(TableName.of("plant")).foreignKeys()).hasSize(1);
        }
    }

    @ParameterizedTest
    @MethodSource("systems")
    void whatASystemMayNotHaveStaysBehindAndTheTableComes(String system) {
        TableDefinition log = TableDefinition.named(TableName.of("log"))
                .column(ColumnDefinition.named("no", LogicalType.decimal(20, 0))
                        .nullable(false)
                        .identity(Optional.of(new Identity(false, 1, 1, 1)))
                        .build())
                .column(ColumnDefinition.named("at", LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 6))
                        .defaultValue(Optional.of(new ColumnDefault.Expression("CURRENT_TIMESTAMP", SqlText.ISO)))
                        .build())
                .primaryKey("no")
                .unique(new Key("log_no", List.of("no")))
                .build();
        ListedPlace source =
                new ListedPlace().with(log, List.of(List.of("18446744073709551615", "2031-04-09T07:30:00Z")));
        String url = fresh(system);
        try (TargetPlace target = Places.openTarget(url)) {
            assertThat(Load.from(source).into(target).leftBehind())
                    .extracting(LeftBehind::kind)
                    .contains("identity", "unique key");
            assertEqual(source, target);
        }
    }

    @ParameterizedTest
    @MethodSource("systems")
    void aLoadThatWasKilledIsUndoneByTheNext(String system) {
        String url = fresh(system);
        ListedPlace beds = beds("1=moss");
        TargetPlace killed = Places.openTarget(url);
        List<TableDefinition> tables = beds.tables().stream().map(beds::define).toList();
        Loading loading = killed.begin(tables, LoadModes.all(LoadMode.CREATE), "a plan");
        assertThat(loading.findings()).isEmpty();
        // its connection goes, and nothing of it is put back
        killed.close();
        try (Place target = Places.open(url)) {
            assertThat(target.tables()).isEmpty();
            assertThat(target.leftBehind()).anyMatch(l -> l.kind().equals("unfinished load"));
        }
        assertThat(load(beds, url, LoadMode.CREATE).isEqual()).isTrue();
        try (Place target = Places.open(url)) {
            assertThat(target.leftBehind()).noneMatch(l -> l.kind().equals("unfinished load"));
        }
    }

    @Test
    void aReferredTableIsntReplacedWithoutTheOneThatRefersToIt() {
        String url = fresh("Apache Derby");
        load(beds("1=moss"), url, LoadMode.CREATE);
        try (TargetPlace target = Places.openTarget(url)) {
            assertThatThrownBy(() -> Load.from(beds("2=fern"))
                            .tables("bed")
                            .mode(LoadMode.REPLACE)
                            .into(target))
                    .isInstanceOf(PlaceException.class)
                    .hasMessageContaining("table plant");
        }
        try (Place target = Places.open(url)) {
            assertEqual(beds("1=moss"), target);
        }
    }
}
