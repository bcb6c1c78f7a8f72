package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.model.TableName;

/**
 * The order in which several lanes begin tasks: those that are likely to take longest first, so that no lane begins a long one when
 * the others have come to their end. How long one takes is about its records times its columns. Tasks that are alike stay in
 * their order.
 */
final class LongestFirst {

    private LongestFirst() {}

    static List<SliceTask> of(WorkPlan plan) {
        Map<TableName, Double> cells = new HashMap<>();
        for (WorkPlan.Table table : plan.tables()) {
            int columns = Math.max(1, table.definition().columns().size());
            cells.put(table.definition().name(), (double) Math.max(0, table.rows()) * columns);
        }
        List<SliceTask> ordered = new ArrayList<>(plan.tasks());
        ordered.sort(Comparator.comparingDouble(
                        (SliceTask task) -> cells.getOrDefault(task.part().table(), 0.0)
                                / task.part().of())
                .reversed());
        return ordered;
    }
}
