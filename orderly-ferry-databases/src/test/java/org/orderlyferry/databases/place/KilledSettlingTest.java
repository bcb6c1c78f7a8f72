package org.orderlyferry.databases.place;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
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
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.faults.FaultyConnections;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/**
 * A load that is killed while it adds keys and indexes, or later: the next one has all records, keys and names as they
 * belong. A build takes a few of the calls to the server, spread over all of them; {@code -Dferry.faults=1} takes every one.
 */
class KilledSettlingTest {

    private static final int POINTS = 5;

    private static final TableDefinition DRAWER = TableDefinition.named("drawer")
            .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                    .nullable(false)
                    .build())
            .column("label", LogicalType.varchar(30))
            .column("depth", LogicalType.INTEGER)
            .primaryKey("id")
            .unique(new Key("", List.of("label")))
            .unique(new Key("drawer_both", List.of("label", "depth")))
            .check(new CheckConstraint("", new SqlText("depth > 0", SqlText.ISO)))
            .check(new CheckConstraint("drawer_shallow", new SqlText("depth < 900", SqlText.ISO)))
            .index(IndexDefinition.of("drawer_depth", false, List.of("depth")))
            .index(IndexDefinition.of("drawer_label", false, List.of("depth", "label")))
            .build();

    private static final TableDefinition SHEET = TableDefinition.named("sheet")
            .column(ColumnDefinition.named("no", LogicalType.BIGINT)
                    .nullable(false)
                    .build())
            .column("drawer", LogicalType.INTEGER)
            .primaryKey("no")
            .index(IndexDefinition.of("sheet_drawer", true, List.of("drawer", "no")))
            .foreignKey(new ForeignKey(
                    "sheet_in_drawer",
                    List.of("drawer"),
                    TableName.of("drawer"),
                    List.of("id"),
                    ReferentialAction.NO_ACTION,
                    ReferentialAction.NO_ACTION))
            .build();

    private static final ListedPlace RECORDS = new ListedPlace()
            .with(
                    DRAWER,
                    List.of(
                            Arrays.asList("1", "mosses", "3"),
                            Arrays.asList("2", "ferns", null),
                            Arrays.asList("3", null, "899")))
            .with(SHEET, List.of(Arrays.asList("1", "1"), Arrays.asList("2", null), Arrays.asList("3", "3")));

    @TempDir
    private static Path folder;

    private static Path set;

    @BeforeAll
    static void makeTheSet() {
        set = folder.resolve("set");
        Export.from(RECORDS).to(set);
    }

    static Stream<Arguments> kills() {
        return TestSystem.names()
                .flatMap(system -> Stream.of(FaultyConnections.Kind.KILLED, FaultyConnections.Kind.KILLED_AFTERWARDS)
                        .map(kind -> Arguments.of(system, kind)));
    }

    /** Notes at which call to the server the load began to settle. */
    private static final class WhenSettling implements ProgressListener {
        private final FaultyConnections faults;
        private int call;

        WhenSettling(FaultyConnections faults) {
            this.faults = faults;
        }

        @Override
        public void stage(Stage stage) {
            if (stage == Stage.FINISHING) {
                call = faults.calls();
            }
        }
    }

    private static TransferResult load(TargetPlace target, ProgressListener listener) {
        try (Place source = Places.open(set.toString())) {
            return Load.from(source).mode(LoadMode.REPLACE).listener(listener).into(target);
        }
    }

    private static String fresh(String system) {
        String url = TestSystem.of(system).fresh(folder);
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(new ListedPlace().with(DRAWER, List.of(Arrays.asList("9", "old", "1"))))
                    .into(target);
        }
        return url;
    }

    @ParameterizedTest(name = "{0} {1}")
    @MethodSource("kills")
    void theNextLoadHasAllAsItBelongs(String system, FaultyConnections.Kind kind) throws SQLException {
        FaultyConnections none = new FaultyConnections(0, kind, FaultyPlaces::unwrapped);
        WhenSettling settling = new WhenSettling(none);
        String whole = fresh(system);
        try (TargetPlace target = FaultyPlaces.open(system, whole, true, none)) {
            load(target, settling);
        }
        String definitions = definitions(whole);
        List<Integer> wentOn = new ArrayList<>();
        int calls = none.calls() - settling.call;
        int stride = Integer.getInteger("ferry.faults", Math.max(1, calls / POINTS));
        // other calls for each kind and system
        int first = settling.call + 1 + Math.abs((system + kind).hashCode() % stride);
        for (int fatal = first; fatal <= none.calls(); fatal += stride) {
            String url = fresh(system);
            FaultyConnections faults = new FaultyConnections(fatal, kind, FaultyPlaces::unwrapped);
            String told = "";
            try (TargetPlace target = FaultyPlaces.open(system, url, true, faults)) {
                load(target, ProgressListener.NONE);
            } catch (FerryException e) {
                told = e.getMessage();
            }
            String when = "call " + fatal + " " + faults.struck() + ": " + told;
            try (TargetPlace target = Places.openTarget(url)) {
                TransferResult result = load(target, ProgressListener.NONE);
                assertThat(result.rows()).as(when).isEqualTo(6);
                if (result.findings().stream().anyMatch(f -> f.code() == FindingCode.RESUMED)) {
                    wentOn.add(fatal);
                }
            }
            try (Place there = Places.open(url)) {
                assertThat(there.leftBehind()).as(when).isEmpty();
                assertThat(Reconcile.between(RECORDS, there).compare().isEqual())
                        .as(when)
                        .isTrue();
            }
            assertThat(definitions(url)).as(when).isEqualTo(definitions);
        }
        if (!system.equals("SQLite")) {
            // SQLite's load is one transaction, of which a kill leaves nothing
            assertThat(wentOn).as(calls + " calls").isNotEmpty();
        }
    }

    private static String definitions(String url) {
        try (Place place = Places.open(url)) {
            return place.tables().stream().map(place::define).toList().toString();
        }
    }
}
