package org.orderlyferry.databases.loading;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Removal;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.herbarium.HostileTexts;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;

/** Records and tables that are taken out of a database again: those that are meant, all of them or none. */
class RemovalTest {

    private static final TableName DRAWER = TableName.of("drawer");
    private static final TableName SHEET = TableName.of("sheet");

    @TempDir
    private Path folder;

    /** More than go with one statement, some of them with texts for which a careless statement would do something else. */
    private static List<List<String>> sheets() {
        List<List<String>> sheets = new ArrayList<>();
        for (int no = 0; no < 700; no++) {
            sheets.add(Arrays.asList(
                    "k" + no, "2031-01-" + (no % 28 < 9 ? "0" : "") + (no % 28 + 1), no + ".50", "s" + no));
        }
        int no = 0;
        for (String text : new TreeSet<>(HostileTexts.ALL)) {
            if (!text.isBlank() && text.indexOf('\0') < 0 && text.codePointCount(0, text.length()) < 60) {
                sheets.add(Arrays.asList("h" + ++no + " " + text, "2032-02-29", "-0.01", text));
            }
        }
        return sheets;
    }

    private static final TableDefinition SHEETS = TableDefinition.named("sheet")
            .column(ColumnDefinition.named("code", LogicalType.varchar(80))
                    .nullable(false)
                    .build())
            .column(ColumnDefinition.named("day", LogicalType.DATE)
                    .nullable(false)
                    .build())
            .column(ColumnDefinition.named("size", LogicalType.decimal(10, 2))
                    .nullable(false)
                    .build())
            .column("note", LogicalType.varchar(200))
            .primaryKey("code", "day", "size")
            .build();

    private static TableDefinition keyOf(TableDefinition table, String... columns) {
        TableDefinition.Builder key = TableDefinition.named(table.name().name());
        Arrays.stream(columns).map(c -> table.column(c).orElseThrow()).forEach(key::column);
        return key.build();
    }

    private String with(String system, ListedPlace records) {
        String url = TestSystem.of(system).fresh(folder);
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(records).into(target);
        }
        return url;
    }

    private static long delete(String url, TableDefinition key, List<List<String>> keys) {
        ListedPlace listed = new ListedPlace().with(key, keys);
        try (TargetPlace target = Places.openTarget(url)) {
            return target.delete(new Removal(key, () -> listed.read(Slice.whole(key))));
        }
    }

    private static List<String> column(String url, TableName table, int column) {
        List<String> values = new ArrayList<>();
        RecordBatch batch = new RecordBatch();
        try (Place place = Places.open(url);
                RecordReader reader = place.read(Slice.whole(place.define(table)))) {
            while (reader.read(batch)) {
                IntStream.range(0, batch.rows()).forEach(row -> values.add(batch.text(row, column)));
            }
        }
        return values;
    }

    private static List<TableName> tables(String url) {
        try (Place place = Places.open(url)) {
            return place.tables();
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void justTheRecordsThatAreMeantGo(String system) {
        List<List<String>> all = sheets();
        String url = with(system, new ListedPlace().with(SHEETS, all));
        List<List<String>> going = new ArrayList<>();
        List<String> staying = new ArrayList<>();
        for (int i = 0; i < all.size(); i++) {
            List<String> key = all.get(i).subList(0, 3);
            if (i % 20 == 7) {
                staying.add(all.get(i).get(0));
                // the same code on another day is another record
                going.add(List.of(key.get(0), "1999-12-31", key.get(2)));
            } else {
                going.add(key);
            }
        }
        assertThat(delete(url, keyOf(SHEETS, "code", "day", "size"), going)).isEqualTo(all.size() - staying.size());
        assertThat(column(url, SHEET, 0)).containsExactlyInAnyOrderElementsOf(staying);
        assertThat(delete(url, keyOf(SHEETS, "code", "day", "size"), List.of())).isZero();
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aNullIsNoOther(String system) {
        TableDefinition loose = TableDefinition.named("loose")
                .column("shelf", LogicalType.INTEGER)
                .column("at", LogicalType.of(TypeName.TIMESTAMP, 3))
                .build();
        String url = with(
                system,
                new ListedPlace()
                        .with(
                                loose,
                                List.of(
                                        Arrays.asList(null, "2031-04-09T11:30:00.125"),
                                        Arrays.asList("1", null),
                                        Arrays.asList("1", "2031-04-09T11:30:00.125"),
                                        Arrays.asList("2", "2031-04-09T11:30:00"))));
        assertThat(delete(url, loose, List.of(Arrays.asList("1", null), Arrays.asList("2", "2031-04-09T11:30:00"))))
                .isEqualTo(2);
        assertThat(column(url, loose.name(), 0)).containsExactlyInAnyOrder(null, "1");
    }

    /** A type that a key may have, and three values of it. */
    private static final Map<LogicalType, List<String>> KEYS = Map.ofEntries(
            Map.entry(LogicalType.BOOLEAN, Arrays.asList("true", "false", null)),
            Map.entry(LogicalType.of(TypeName.SMALLINT), List.of("-1", "0", "32767")),
            Map.entry(LogicalType.BIGINT, List.of("-9223372036854775808", "0", "9223372036854775807")),
            Map.entry(LogicalType.decimal(30, 0), List.of("1", "-123456789012345678901234567890", "0")),
            Map.entry(LogicalType.decimal(12, 3), List.of("0.5", "0.501", "-0.001")),
            Map.entry(LogicalType.of(TypeName.CHARACTER, 5), List.of("a", "b", "ab")),
            Map.entry(LogicalType.varchar(40), List.of("\\", "'' OR 1=1 --", "\uD83C\uDF3F")),
            Map.entry(LogicalType.DATE, List.of("2031-04-09", "1000-01-01", "9999-12-31")),
            Map.entry(LogicalType.of(TypeName.TIME, 3), List.of("00:00:00", "11:30:00.125", "23:59:59")),
            Map.entry(
                    LogicalType.of(TypeName.TIMESTAMP, 6),
                    List.of("2031-04-09T11:30:00", "2031-04-09T11:30:00.000001", "2031-04-09T00:00:00")),
            Map.entry(
                    LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 3),
                    List.of("2031-04-09T11:30:00Z", "2031-04-09T11:30:00.125Z", "1999-12-31T23:59:59Z")),
            Map.entry(
                    LogicalType.UUID,
                    List.of(
                            "00000000-0000-0000-0000-000000000000",
                            "6f1ed002-ab55-95c1-a1d0-0c0b7a3d1e2f",
                            "ffffffff-ffff-ffff-ffff-ffffffffffff")));

    static Stream<Arguments> keys() {
        return TestSystem.names().flatMap(system -> KEYS.keySet().stream()
                .sorted(Comparator.comparing(LogicalType::toString))
                .map(type -> Arguments.of(system, type)));
    }

    /** A key goes as the system itself gives it back. */
    @ParameterizedTest(name = "{0}: {1}")
    @MethodSource("keys")
    void aKeyOfAnyTypeIsFound(String system, LogicalType type) {
        TableDefinition label =
                TableDefinition.named("label").column("key", type).build();
        String url = with(
                system,
                new ListedPlace()
                        .with(label, KEYS.get(type).stream().map(Arrays::asList).toList()));
        List<String> there = column(url, label.name(), 0);
        TableDefinition made;
        try (Place place = Places.open(url)) {
            made = place.define(label.name());
        }
        for (int i = there.size(); i-- > 0; ) {
            assertThat(delete(url, made, List.of(Arrays.asList(there.get(i))))).isOne();
            assertThat(column(url, label.name(), 0)).containsExactlyInAnyOrderElementsOf(there.subList(0, i));
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatIsNotComparedExactlyIsNoKey(String system) {
        TableDefinition odd = TableDefinition.named("odd")
                .column("ratio", LogicalType.DOUBLE)
                .column("scan", LogicalType.BLOB)
                .build();
        String url = with(system, new ListedPlace().with(odd, List.of(List.of("0.1", "ab"))));
        assertThatThrownBy(() -> delete(url, keyOf(odd, "ratio"), List.of(List.of("0.1"))))
                .isInstanceOf(UsageException.class)
                .hasMessageContainingAll("odd", "ratio", "DOUBLE");
        assertThatThrownBy(() -> delete(url, keyOf(odd, "scan"), List.of(List.of("ab"))))
                .isInstanceOf(UsageException.class)
                .hasMessageContainingAll("odd", "scan");
        assertThat(column(url, odd.name(), 0)).hasSize(1);
    }

    private static TableDefinition referring(String name, String to) {
        return TableDefinition.named(name)
                .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                        .nullable(false)
                        .build())
                .column("other", LogicalType.INTEGER)
                .primaryKey("id")
                .foreignKey(new ForeignKey(
                        name + "_of_" + to,
                        List.of("other"),
                        TableName.of(to),
                        List.of("id"),
                        ReferentialAction.NO_ACTION,
                        ReferentialAction.NO_ACTION))
                .build();
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void tablesThatReferInACircleGoTogetherOrNotAtAll(String system) {
        String url = with(
                system,
                new ListedPlace()
                        .with(referring("drawer", "sheet"), List.of(List.of("1", "2")))
                        .with(referring("sheet", "drawer"), List.of(List.of("2", "1")))
                        .with(referring("visit", "visit"), List.of(List.of("5", "5"))));
        try (TargetPlace target = Places.openTarget(url)) {
            assertThatThrownBy(() -> target.remove(List.of(DRAWER)))
                    .isInstanceOf(UsageException.class)
                    .hasMessageContaining("table sheet refers to drawer");
        }
        assertThat(tables(url)).hasSize(3);
        assertThat(column(url, DRAWER, 1)).containsExactly("2");
        try (TargetPlace target = Places.openTarget(url)) {
            target.remove(List.of(SHEET, TableName.of("never there"), DRAWER));
        }
        assertThat(tables(url)).containsExactly(TableName.of("visit"));
        try (TargetPlace target = Places.openTarget(url)) {
            target.remove(List.of(TableName.of("visit")));
        }
        assertThat(tables(url)).isEmpty();
    }
}
