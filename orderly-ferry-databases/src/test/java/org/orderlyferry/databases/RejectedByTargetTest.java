package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.RejectFile;
import org.orderlyferry.work.TransferResult;

/** Records that a target can't hold stay behind with their reasons, and what is counted adds up. */
class RejectedByTargetTest {

    private static final int MANY = 3_000;

    @TempDir
    private Path folder;

    private static TableDefinition bed(LogicalType name, LogicalType height, boolean nullable) {
        return TableDefinition.named(TableName.of("bed"))
                .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                        .nullable(false)
                        .build())
                .column(ColumnDefinition.named("name", name).nullable(nullable).build())
                .column("height", height)
                .primaryKey("id")
                .build();
    }

    private static ListedPlace wide(boolean broken) {
        List<List<String>> records = new ArrayList<>();
        for (int i = 0; i < MANY; i++) {
            records.add(List.of(Integer.toString(i), "moss", "1.50"));
        }
        if (broken) {
            records.set(7, Arrays.asList("7", null, "1"));
            records.set(1_500, List.of("1500", "a fern with a long name", "1"));
            records.set(MANY - 1, List.of(Integer.toString(MANY - 1), "heath", "1.505"));
        }
        return new ListedPlace().with(bed(LogicalType.varchar(60), LogicalType.decimal(9, 3), true), records);
    }

    private static String target(Path folder, String system) {
        String url = TestSystem.of(system).fresh(folder);
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(new ListedPlace().with(bed(LogicalType.varchar(5), LogicalType.decimal(9, 2), false), List.of()))
                    .into(target);
        }
        return url;
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void theyAreKeptWithTheirReasonsAndTheOthersAreIn(String system) throws Exception {
        Path set = folder.resolve("set");
        try (Place source = wide(true)) {
            Export.from(source).sliceRows(1_000).to(set);
        }
        Path file = folder.resolve("rejects.csv");
        String url = target(folder, system);
        try (Place source = Places.open(set);
                TargetPlace target = Places.openTarget(url)) {
            assertThatThrownBy(() -> Load.from(source).mode(LoadMode.APPEND).into(target))
                    .isInstanceOf(BadValueException.class);
            TransferResult result;
            try (RejectFile rejects = new RejectFile(file)) {
                result = Load.from(source)
                        .mode(LoadMode.APPEND)
                        .lanes(2)
                        .rejects(rejects)
                        .into(target);
            }
            assertThat(result.rejected()).isEqualTo(3);
            assertThat(result.rows()).isEqualTo(MANY - 3L);
            assertThat(result.addsUp()).isTrue();
            assertThat(result.tables().get(0).tally().rows()).isEqualTo(MANY - 3L);
        }
        assertThat(Files.readString(file))
                .contains(",name,,", "NOT NULL")
                .contains("a fern with a long name", "too many for")
                .contains(",height,1.505,");
        ListedPlace left = wide(false);
        try (Place target = Places.open(url)) {
            assertThat(target.count(TableName.of("bed"))).isEqualTo(MANY - 3L);
            assertThat(Reconcile.between(left, target).compare().isEqual()).isFalse();
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aSetThatWasChangedIsStillSeen(String system) throws Exception {
        Path set = folder.resolve("changed");
        try (Place source = wide(true)) {
            Export.from(source).to(set);
        }
        Path data = set.resolve("data/bed.csv");
        Files.writeString(data, Files.readString(data).replace("\n8,moss,", "\n8,mess,"));
        String url = target(folder, system);
        try (Place source = Places.open(set);
                TargetPlace target = Places.openTarget(url);
                RejectFile rejects = new RejectFile(folder.resolve("rejects.csv"))) {
            assertThatThrownBy(() -> Load.from(source)
                            .mode(LoadMode.APPEND)
                            .rejects(rejects)
                            .into(target))
                    .isInstanceOf(BrokenSetException.class);
        }
        try (Place target = Places.open(url)) {
            assertThat(target.count(TableName.of("bed"))).isZero();
        }
    }
}
