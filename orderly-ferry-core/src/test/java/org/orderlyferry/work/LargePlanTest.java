package org.orderlyferry.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TablePart;

/** Plans of many slices, and in which order they are begun. */
class LargePlanTest {

    @TempDir
    Path folder;

    private static TableDefinition table(String name, int columns) {
        TableDefinition.Builder table = TableDefinition.named(new TableName("quillmoor", name));
        for (int i = 0; i < columns; i++) {
            table.column("column " + i, LogicalType.INTEGER);
        }
        return table.build();
    }

    private static List<SliceTask> tasks(TableDefinition table, int number, int first) {
        List<SliceTask> tasks = new ArrayList<>();
        for (int i = 0; i < number; i++) {
            KeyRange range = new KeyRange(
                    List.of("column 0"),
                    i == 0 ? List.of() : List.of(String.valueOf(i * 1_000_000L)),
                    i == number - 1 ? List.of() : List.of(String.valueOf((i + 1) * 1_000_000L)),
                    false);
            tasks.add(new SliceTask(
                    new TablePart(first + i, table.name(), i + 1, number),
                    new SliceSource.OfTable(new Slice(table.name(), table.columnNames(), range, FilePiece.ALL))));
        }
        return tasks;
    }

    private static WorkPlan plan(List<WorkPlan.Table> tables, List<SliceTask> tasks) {
        return new WorkPlan(
                WorkOrder.of(
                        WorkOrder.Kind.EXPORT, WorkEnd.of("jdbc:postgresql://elsewhere/quillmoor"), WorkEnd.of("set")),
                "",
                tables,
                tasks,
                List.of());
    }

    @Test
    void aPlanOfThirtyThousandSlicesIsReadAsItWasWritten() throws Exception {
        TableDefinition reading = table("reading", 12);
        WorkPlan plan = plan(List.of(new WorkPlan.Table(reading, 30_000_000_000L)), tasks(reading, 30_000, 0));
        PlanFile file = new PlanFile(folder.resolve("plan.json"), PlanFile.Moments.STILL);
        file.write(plan);
        WorkPlan read = file.read().orElseThrow();
        assertThat(read).isEqualTo(plan);
        assertThat(read.hash()).isEqualTo(plan.hash());
        // its names stand in memory once
        assertThat(column(read, 7)).isSameAs(column(read, 29_999));
        assertThat(Files.size(file.path())).isLessThan(30_000_000);
        // and is told by what it is, however it is written
        assertThat(WorkPlan.parse(plan.toJson()).hash()).isEqualTo(plan.hash());
    }

    private static String column(WorkPlan plan, int task) {
        return ((SliceSource.OfTable) plan.tasks().get(task).source())
                .slice()
                .columns()
                .get(5);
    }

    @Test
    void whatTakesLongestIsBegunFirst() {
        TableDefinition small = table("small", 3);
        TableDefinition wide = table("wide", 60);
        TableDefinition large = table("large", 4);
        List<SliceTask> tasks = new ArrayList<>(tasks(small, 1, 0));
        tasks.addAll(tasks(large, 4, 1));
        tasks.addAll(tasks(wide, 1, 5));
        WorkPlan plan = plan(
                List.of(
                        new WorkPlan.Table(small, 1_000),
                        new WorkPlan.Table(large, 4_000_000),
                        new WorkPlan.Table(wide, 900_000)),
                tasks);
        // 54 million cells, four times 4 million, and 3,000
        assertThat(LongestFirst.of(plan)).extracting(SliceTask::number).containsExactly(5, 1, 2, 3, 4, 0);
    }
}
