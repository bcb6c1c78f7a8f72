package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.ComparedDefinitions;
import org.orderlyferry.reconcile.DefinitionDifference;
import org.orderlyferry.reconcile.DefinitionDifference.Part;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.generated.GeneratedTables;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/** Definitions on both sides: what a load has made is never different, and what somebody has made otherwise always is. */
class ComparedDefinitionsTest {

    private static final int SEEDS = Integer.getInteger("ferry.definitions", 2);

    @TempDir
    private Path folder;

    static Stream<Arguments> pairs() {
        return TestSystem.names().flatMap(from -> TestSystem.names().map(to -> Arguments.of(from, to)));
    }

    static Stream<Arguments> pairsAndSeeds() {
        return pairs().flatMap(p -> LongStream.range(0, SEEDS)
                .mapToObj(s -> Arguments.of(p.get()[0], p.get()[1], Long.getLong("ferry.seed", 9) * 1_000 + s)));
    }

    private static ListedPlace listed(List<TableDefinition> tables) {
        ListedPlace source = new ListedPlace();
        tables.forEach(t -> source.with(t, List.of()));
        return source;
    }

    private String made(String system, List<TableDefinition> tables) {
        String url = TestSystem.of(system).fresh(folder);
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(listed(tables)).into(target);
        }
        return url;
    }

    private static ComparedDefinitions compared(String from, String to) {
        try (Place source = Places.open(from);
                Place target = Places.open(to)) {
            return Reconcile.between(source, target)
                    .depth(Depth.COUNTS)
                    .definitions(true)
                    .compare()
                    .definitions()
                    .orElseThrow();
        }
    }

    private static List<DefinitionDifference> unforced(String from, String to) {
        return compared(from, to).differences().stream()
                .filter(d -> !d.forced())
                .toList();
    }

    @ParameterizedTest(name = "{0} to {1}, {2}")
    @MethodSource("pairsAndSeeds")
    void whatALoadHasMadeIsNeverDifferent(String from, String to, long seed) {
        String first = made(from, new GeneratedTables(seed).some(5));
        String second = TestSystem.of(to).fresh(folder);
        try (Place source = Places.open(first);
                TargetPlace target = Places.openTarget(second)) {
            Load.from(source).into(target);
        }
        assertThat(unforced(first, second)).isEmpty();
        if (from.equals(to)) {
            assertThat(compared(first, second).differences()).isEmpty();
        }
    }

    /** As people write it, and as each server writes it down in its own way. */
    @ParameterizedTest(name = "{0} to {1}")
    @MethodSource("pairs")
    void whatPeopleWriteIsNeverDifferentEither(String from, String to) throws Exception {
        String first = TestSystem.of(from).fresh(folder);
        boolean maria = from.equals("MariaDB");
        String moment = maria ? "datetime(6)" : "timestamp";
        String label = maria ? "concat(kind, ' ', coalesce(kind, ''))" : "kind || ' ' || coalesce(kind, '')";
        String stored = from.equals("H2") ? "" : " stored";
        Databases.run(
                first,
                "create table sheet (id integer primary key, width integer, height double precision, made " + moment
                        + ", seen date, kind varchar(20), label varchar(60) generated always as (" + label + ")"
                        + stored
                        + ", check (width between 0 and 100), check (width not between 7 and 9),"
                        + " check (made >= '2031-02-03'), check (made <> '2031-02-03 10:00:00.500'),"
                        + " check (seen in ('2031-02-03', '2031-02-04')), check ((width is null) = (kind is null)),"
                        + " check (case when width > 5 then height > 1 else true end), check (width * height > 0),"
                        + " check (length(trim(kind)) > 0), check (kind = 'a' or not (width = 3 and seen is null)))",
                "create unique index widest_first on sheet (width desc)",
                "insert into sheet (id, width, height, made, seen, kind) values (1, 6, 2.5, '2031-02-03 10:00:00', '2031-02-03', 'a')");
        if (from.equals("PostgreSQL") || from.equals("SQLite")) {
            Databases.run(
                    first,
                    "create unique index of_kinds on sheet (kind, width) where kind is not null",
                    "create index of_wide on sheet (seen) where width > 5 and (kind <> 'x' or seen is null)");
        }
        String second = TestSystem.of(to).fresh(folder);
        try (Place source = Places.open(first);
                TargetPlace target = Places.openTarget(second)) {
            Load.from(source).into(target);
        }
        assertThat(unforced(first, second)).isEmpty();
        try (Place source = Places.open(first);
                Place target = Places.open(second)) {
            assertThat(Reconcile.between(source, target).compare().isEqual()).isTrue();
            assertThat(target.define(target.tables().get(0)).columns().get(6).generation())
                    .isPresent();
        }
    }

    private static final TableDefinition DRAWER = TableDefinition.named("drawer")
            .column(ColumnDefinition.named("no", LogicalType.BIGINT)
                    .nullable(false)
                    .build())
            .primaryKey("no")
            .build();

    private static final TableDefinition SHEET = TableDefinition.named("sheet")
            .column(ColumnDefinition.named("id", LogicalType.BIGINT)
                    .nullable(false)
                    .build())
            .column(ColumnDefinition.named("label", LogicalType.varchar(40))
                    .nullable(false)
                    .build())
            .column(ColumnDefinition.named("mass", LogicalType.decimal(8, 2))
                    .defaultValue(Optional.of(new ColumnDefault.Literal("1.50")))
                    .build())
            .column("drawer", LogicalType.BIGINT)
            .column("found", LogicalType.DATE)
            .primaryKey("id")
            .unique(new Key("sheet_label", List.of("label")))
            .foreignKey(new ForeignKey(
                    "sheet_drawer",
                    List.of("drawer"),
                    TableName.of("drawer"),
                    List.of("no"),
                    ReferentialAction.NO_ACTION,
                    ReferentialAction.CASCADE))
            .check(new CheckConstraint("sheet_mass", "mass > 0", SqlText.ISO))
            .index(IndexDefinition.of("sheet_found", false, List.of("found", "label")))
            .build();

    private static TableDefinition column(String name, ColumnDefinition other) {
        List<ColumnDefinition> columns = new ArrayList<>(SHEET.columns());
        columns.replaceAll(c -> c.name().equals(name) ? other : c);
        return SHEET.toBuilder().columns(columns).build();
    }

    private static Map<Part, TableDefinition> changes() {
        ColumnDefinition label = SHEET.column("label").orElseThrow();
        ColumnDefinition mass = SHEET.column("mass").orElseThrow();
        return Map.of(
                Part.TYPE,
                column("label", label.withType(LogicalType.varchar(30))),
                Part.NULLABILITY,
                column("label", label.toBuilder().nullable(true).build()),
                Part.DEFAULT,
                column(
                        "mass",
                        mass.toBuilder()
                                .defaultValue(Optional.of(new ColumnDefault.Literal("2.50")))
                                .build()),
                Part.COLUMN,
                SHEET.toBuilder()
                        .columns(SHEET.columns().stream()
                                .filter(c -> !c.name().equals("found"))
                                .toList())
                        .indexes(List.of(IndexDefinition.of("sheet_found", false, List.of("label"))))
                        .build(),
                Part.UNIQUE_KEY,
                SHEET.toBuilder().uniqueKeys(List.of()).build(),
                Part.REFERENCE,
                SHEET.toBuilder().foreignKeys(List.of()).build(),
                Part.CHECK,
                SHEET.toBuilder().checks(List.of()).build(),
                Part.INDEX,
                SHEET.toBuilder().indexes(List.of()).build());
    }

    @ParameterizedTest(name = "{0} to {1}")
    @MethodSource("pairs")
    void whatSomebodyHasMadeOtherwiseIsFound(String from, String to) {
        String first = made(from, List.of(DRAWER, SHEET));
        changes().forEach((part, changed) -> {
            String second = made(to, List.of(DRAWER, changed));
            assertThat(unforced(first, second))
                    .as(part + " of " + to)
                    .isNotEmpty()
                    .allSatisfy(d -> {
                        assertThat(d.table().name()).isEqualToIgnoringCase("sheet");
                        assertThat(d.part()).isIn(part, part == Part.COLUMN ? Part.INDEX : part);
                    });
            // and the other way round something is there that the source hasn't
            assertThat(unforced(second, first))
                    .as(part + ", the other way round")
                    .isNotEmpty();
        });
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("systems")
    void whatIsLeftBehindIsTickedOff(String system) throws Exception {
        String first = made("H2", List.of(DRAWER));
        String second = made(system, List.of(DRAWER));
        Databases.run(first, "CREATE VIEW \"full_drawer\" AS SELECT * FROM \"drawer\"");
        assertThat(compared(first, second).leftBehind()).singleElement().satisfies(t -> {
            assertThat(t.made()).isFalse();
            assertThat(t.thing().name()).contains("full_drawer");
        });
        String drawer = system.equals("H2") ? "\"drawer\"" : "drawer";
        Databases.run(second, "CREATE VIEW full_drawer AS SELECT * FROM " + drawer);
        assertThat(compared(first, second).leftBehind()).singleElement().satisfies(t -> assertThat(t.made())
                .isTrue());
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("systems")
    void aSetHasThemAllAndWhatItLeftBehindIsNotThere(String system) throws Exception {
        String url = made(system, List.of(DRAWER, SHEET));
        String drawer = system.equals("H2") ? "\"drawer\"" : "drawer";
        Databases.run(url, "CREATE VIEW full_drawer AS SELECT * FROM " + drawer);
        Path set = folder.resolve("set");
        try (Place source = Places.open(url)) {
            Export.from(source).to(set);
        }
        ComparedDefinitions compared = compared(url, set.toString());
        assertThat(compared.differences()).isEmpty();
        assertThat(compared.leftBehind()).singleElement().satisfies(t -> assertThat(t.made())
                .isFalse());
        assertThat(unforced(set.toString(), url)).isEmpty();
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("systems")
    void aFileThatHasNoneHasNothingToCompare(String system) throws Exception {
        String url = made(system, List.of(DRAWER));
        Path file = folder.resolve("drawer.csv");
        Files.writeString(file, "no\n");
        assertThat(compared(url, file.toString()).tables()).isEmpty();
    }

    /** In SQLite alone, what a primary key of texts holds may be null. */
    @ParameterizedTest(name = "{0}")
    @MethodSource("systems")
    void aKeyThatMayBeNullIsForcedToBeNone(String system) throws Exception {
        String first = TestSystem.of("SQLite").fresh(folder);
        Databases.run(
                first,
                "CREATE TABLE sheet (code VARCHAR(20), shelf VARCHAR(20), note VARCHAR(20), PRIMARY KEY (code, shelf))",
                "INSERT INTO sheet VALUES ('a', 'b', NULL)");
        String second = TestSystem.of(system).fresh(folder);
        try (Place source = Places.open(first);
                TargetPlace target = Places.openTarget(second)) {
            Load.from(source).into(target);
        }
        assertThat(unforced(first, second)).isEmpty();
        assertThat(unforced(second, first))
                .as("a key that was never null, and may be now")
                .hasSize(system.equals("SQLite") ? 0 : 2);
    }

    @Test
    void typesByOtherWordsStayInSqlite() throws Exception {
        String first = TestSystem.of("SQLite").fresh(folder);
        Databases.run(
                first,
                "CREATE TABLE sheet (a BOOL DEFAULT true, b INT2, c NVARCHAR(20), d TIMESTAMPTZ, e \"of odd words\"(3),"
                        + " f \"two \"\" quotes\", g UNSIGNED BIG INT, h DOUBLE)",
                "INSERT INTO sheet VALUES (1, 2, 'x', '2031-04-09 10:00:00Z', 'y', 'z', 7, 1.5)");
        String second = first;
        for (int hop = 0; hop < 3; hop++) {
            String next = TestSystem.of("SQLite").fresh(folder);
            try (Place source = Places.open(second);
                    TargetPlace target = Places.openTarget(next)) {
                Load.from(source).into(target);
            }
            assertThat(compared(first, next).differences()).isEmpty();
            second = next;
        }
    }

    static Stream<String> systems() {
        return TestSystem.names();
    }
}
