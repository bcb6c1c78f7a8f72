package org.orderlyferry.databases.loading;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;

/** Which record a load can't be finished for is told with its table and key, and the target is as it was, in each system. */
class BrokenRulesTest {

    private static final TableDefinition DRAWER = TableDefinition.named("drawer")
            .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                    .nullable(false)
                    .build())
            .column("label", LogicalType.varchar(30))
            .column("depth", LogicalType.INTEGER)
            .primaryKey("id")
            .build();

    private static final TableDefinition SHEET = TableDefinition.named("sheet")
            .column(ColumnDefinition.named("drawer", LogicalType.INTEGER)
                    .nullable(false)
                    .build())
            .column(ColumnDefinition.named("no", LogicalType.INTEGER)
                    .nullable(false)
                    .build())
            .column("backing", LogicalType.INTEGER)
            .primaryKey("drawer", "no")
            .foreignKey(to("sheet_drawer", "drawer"))
            .foreignKey(to("sheet_backing", "backing"))
            .build();

    private static ForeignKey to(String name, String column) {
        return new ForeignKey(
                name,
                List.of(column),
                DRAWER.name(),
                List.of("id"),
                ReferentialAction.NO_ACTION,
                ReferentialAction.NO_ACTION);
    }

    @TempDir
    private Path folder;

    /** What comes, and what is said of it. */
    private record Coming(String what, ListedPlace records, LoadMode mode, String... said) {
        @Override
        public String toString() {
            return what;
        }
    }

    private static List<String> row(String... values) {
        return Arrays.asList(values);
    }

    private static Stream<Coming> coming() {
        TableDefinition unique = DRAWER.toBuilder()
                .unique(new Key("drawer_label", List.of("label")))
                .build();
        TableDefinition deep = DRAWER.toBuilder()
                .check(new CheckConstraint("drawer_deep", new SqlText("depth > 0", SqlText.ISO)))
                .build();
        return Stream.of(
                new Coming(
                        "one key twice",
                        new ListedPlace()
                                .with(DRAWER, List.of(row("8", "a", "1"), row("9", "b", "1"), row("8", "c", "1"))),
                        LoadMode.REPLACE,
                        "drawer",
                        "8"),
                new Coming(
                        "one unique text twice",
                        new ListedPlace()
                                .with(
                                        unique,
                                        List.of(
                                                row("2", null, "1"),
                                                row("3", null, "1"),
                                                row("4", "x", "1"),
                                                row("5", "x", "1"))),
                        LoadMode.REPLACE,
                        "drawer",
                        "label"),
                new Coming(
                        "a check",
                        new ListedPlace().with(deep, List.of(row("2", "a", null), row("3", "b", "0"))),
                        LoadMode.REPLACE,
                        "drawer",
                        "id = 3"),
                new Coming(
                        "a key that is there",
                        new ListedPlace().with(DRAWER, List.of(row("77", "a", "1"), row("1", "b", "1"))),
                        LoadMode.APPEND,
                        "drawer",
                        "id = 1"),
                new Coming(
                        "a composite key that is there",
                        new ListedPlace().with(SHEET, List.of(row("1", "2", null), row("1", "1", null))),
                        LoadMode.APPEND,
                        "sheet",
                        "no = 1"),
                new Coming(
                        "a reference to what is neither there nor comes",
                        new ListedPlace()
                                .with(DRAWER, List.of(row("4", "new", "1")))
                                .with(SHEET, List.of(row("4", "1", "1"), row("1", "7", "4"), row("1", "8", "55"))),
                        LoadMode.APPEND,
                        "sheet",
                        "backing = 55"),
                new Coming(
                        "a reference that is merged in",
                        new ListedPlace().with(SHEET, List.of(row("1", "1", "66"))),
                        LoadMode.MERGE,
                        "sheet",
                        "backing = 66"),
                new Coming(
                        "a record that another table refers to doesn't come again",
                        new ListedPlace().with(DRAWER, List.of(row("2", "only", "1"))),
                        LoadMode.REPLACE,
                        "sheet",
                        "drawer = 1"));
    }

    static Stream<Arguments> each() {
        return TestSystem.names().flatMap(system -> coming().map(c -> Arguments.of(system, c)));
    }

    @ParameterizedTest(name = "{0}: {1}")
    @MethodSource("each")
    void theRecordIsToldAndAllIsAsBefore(String system, Coming coming) throws SQLException {
        ListedPlace before = new ListedPlace()
                .with(DRAWER, List.of(row("1", "mosses", "3"), row("2", "ferns", null)))
                .with(SHEET, List.of(row("1", "1", "2"), row("2", "1", null)));
        String url = TestSystem.of(system).fresh(folder);
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(before).into(target);
        }
        try (TargetPlace target = Places.openTarget(url)) {
            assertThatThrownBy(() ->
                            Load.from(coming.records()).mode(coming.mode()).into(target))
                    .isInstanceOf(FerryException.class)
                    .hasMessageContainingAll(coming.said())
                    .message()
                    .doesNotContain("orderly_ferry");
        }
        try (Place there = Places.open(url)) {
            assertThat(there.tables()).containsExactlyInAnyOrder(DRAWER.name(), SHEET.name());
            assertThat(there.define(TableName.of("sheet")).foreignKeys()).hasSize(2);
            assertThat(Reconcile.between(before, there).compare().isEqual()).isTrue();
        }
    }
}
