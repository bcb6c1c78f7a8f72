package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What somebody wrote about a table, however long, goes as far as the target has room for it, and no table fails by it. */
class CommentsTest {

    private static final String LINES = "the bed's label\r\ncosts $(5) \\ \"as told\"\nand no more";
    private static final String LONG = "🌱 moss and stone, ".repeat(400);

    @TempDir
    Path folder;

    private static TableDefinition bed(String comment) {
        return TableDefinition.named(TableName.of("bed"))
                .comment(comment)
                .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                        .nullable(false)
                        .comment(comment)
                        .build())
                .primaryKey("id")
                .build();
    }

    private static void carry(
            PlaceAddress to,
            OpenOptions options,
            TableDefinition table,
            BiConsumer<TableDefinition, Set<String>> seen) {
        TransferResult result;
        try (TargetPlace target = Places.openTarget(to, options)) {
            result = Load.from(new ListedPlace().with(table, List.of())).into(target);
        }
        try (Place there = Places.open(to, options)) {
            seen.accept(
                    there.define(there.tables().get(0)),
                    result.leftBehind().stream().map(LeftBehind::kind).collect(Collectors.toSet()));
        }
    }

    static Stream<String> systems() {
        return TestSystem.names();
    }

    @ParameterizedTest
    @MethodSource("systems")
    void aSystemTakesWhatItHasRoomFor(String system) {
        for (String comment : List.of(LINES, LONG)) {
            PlaceAddress to = PlaceAddress.of(TestSystem.of(system).fresh(folder));
            carry(to, OpenOptions.DEFAULT, bed(comment), (bed, told) -> {
                String onColumn = bed.columns().get(0).comment();
                if (told.isEmpty()) {
                    assertThat(bed.comment()).isEqualTo(comment);
                    assertThat(onColumn).isEqualTo(comment);
                } else if (told.contains("ends of comments")) {
                    assertThat(bed.comment()).hasSize(2_048).startsWith("? moss and stone, ? moss");
                    assertThat(onColumn).hasSize(1_024);
                } else {
                    assertThat(told).containsExactly("comments");
                }
            });
        }
    }

    /** MariaDB has a room that all columns of a table share. */
    @ParameterizedTest
    @MethodSource("systems")
    void longDefaultsAndManyCommentsAreCarriedOrTold(String system) {
        TableDefinition.Builder table = TableDefinition.named(TableName.of("bed"));
        for (int i = 0; i < 80; i++) {
            table.column(ColumnDefinition.named("c" + i, LogicalType.CLOB)
                    .comment("column " + i + " ".repeat(900) + "of many")
                    .defaultValue(Optional.of(
                            new ColumnDefault.Literal(i % 40 == 0 ? "it's ''moss'', ".repeat(3_000) : "m" + i)))
                    .build());
        }
        carry(PlaceAddress.of(TestSystem.of(system).fresh(folder)), OpenOptions.DEFAULT, table.build(), (bed, told) -> {
            long defaults = bed.columns().stream()
                    .filter(c -> c.defaultValue().isPresent())
                    .count();
            long comments =
                    bed.columns().stream().filter(c -> !c.comment().isEmpty()).count();
            assertThat(defaults == 80).isEqualTo(!told.contains("default"));
            assertThat(comments == 80).isEqualTo(!told.contains("comment") && !told.contains("comments"));
            assertThat(defaults).isGreaterThanOrEqualTo(78);
        });
    }

    static Stream<String> standIns() {
        return Stream.of("jdbc:stand-in:sqlserver:mem:comments", "jdbc:stand-in:oracle:mem:comments");
    }

    @ParameterizedTest
    @MethodSource("standIns")
    void noShellStandsBetweenWhereADriverConnects(String url) {
        PlaceAddress lines = PlaceAddress.of(url + "lines");
        carry(lines, OpenOptions.DEFAULT, bed(LINES), (bed, told) -> {
            assertThat(bed.comment()).isEqualTo(LINES);
            assertThat(bed.columns().get(0).comment()).isEqualTo(LINES);
            assertThat(told).isEmpty();
        });
        carry(PlaceAddress.of(url + "long"), OpenOptions.DEFAULT, bed(LONG), (bed, told) -> {
            assertThat(LONG).startsWith(bed.comment());
            assertThat(bed.comment().length()).isBetween(3_000, 3_750);
            assertThat(told).containsExactly("ends of comments");
        });
    }

    @ParameterizedTest
    @ValueSource(strings = {"SqlServer", "Oracle"})
    void aScriptHasThemInOneLineAndSaysSo(String system) {
        OpenOptions options = dialect(system);
        carry(script(system), options, bed(LINES), (bed, told) -> {
            assertThat(bed.comment())
                    .isEqualTo(bed.columns().get(0).comment())
                    .startsWith("the bed's label  costs $")
                    .endsWith("(5) \\ \"as told\" and no more");
            assertThat(told).contains("line ends of comments");
        });
        carry(script(system + "2"), options, bed(LONG), (bed, told) -> {
            assertThat(LONG).startsWith(bed.comment());
            assertThat(bed.comment().length()).isBetween(1_000, 3_750);
            assertThat(told).containsExactly("ends of comments");
        });
    }

    /** Oracle's counters are set by a statement of their own, which could forget by how much they count. */
    @ParameterizedTest
    @CsvSource({"Oracle, true", "Oracle, false", "SqlServer, true", "PostgreSql, true", "PostgreSql, false"})
    void aScriptsCounterGoesOnByWhatItCountedBy(String system, boolean always) {
        TableDefinition table = TableDefinition.named(TableName.of("bed"))
                .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                        .nullable(false)
                        .identity(Optional.of(new Identity(always, 3, 5, 3)))
                        .build())
                .primaryKey("id")
                .build();
        carry(script(system), dialect(system), table, (bed, told) -> assertThat(
                        bed.columns().get(0).identity().orElseThrow().increment())
                .isEqualTo(5));
    }

    private static OpenOptions dialect(String system) {
        return OpenOptions.builder()
                .files(FileSettings.NONE.with("dialect", system.toLowerCase(Locale.ROOT)))
                .build();
    }

    private PlaceAddress script(String name) {
        return PlaceAddress.of(folder.resolve(name + ".sql").toString());
    }
}
