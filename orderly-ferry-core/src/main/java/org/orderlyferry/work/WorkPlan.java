package org.orderlyferry.work;

import java.util.List;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.UsageException;

/**
 * An order's tables, definitions and slices, cut once: whoever goes on with the work, in this process or another, does so
 * by the same plan. A plain value.
 *
 * @param order what was asked for
 * @param state of the source when the plan was made, where it can tell; else empty
 * @param tables in the order in which they move
 * @param tasks in the order in which they begin; each has its place in the list as its number
 * @param denied tables that may not be read
 */
@NullMarked
public record WorkPlan(
        WorkOrder order, String state, List<Table> tables, List<SliceTask> tasks, List<FailedTable> denied) {

    public WorkPlan {
        tables = List.copyOf(tables);
        tasks = List.copyOf(tasks);
        denied = List.copyOf(denied);
        for (int i = 0; i < tasks.size(); i++) {
            if (tasks.get(i).number() != i) {
                throw new UsageException("a plan's tasks are numbered from 0 in their order");
            }
        }
    }

    /**
     * A table to be moved.
     *
     * @param rows how many records it has, about
     * @param mark by which the source can tell whether the table was written since, where its slices are only good for as long
     *     as it isn't; else empty
     */
    public record Table(TableDefinition definition, long rows, String mark) {
        /** One whose slices are of its own values. */
        public Table(TableDefinition definition, long rows) {
            this(definition, rows, "");
        }
    }

    /** The names of the tables that move. */
    List<TableName> names() {
        return definitions().stream().map(TableDefinition::name).toList();
    }

    /** The definitions of all its tables. */
    public List<TableDefinition> definitions() {
        return tables.stream().map(Table::definition).toList();
    }

    /** A table's definition, by its name. */
    public TableDefinition definition(TableName name) {
        return tables.stream()
                .map(Table::definition)
                .filter(t -> t.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new UsageException("the plan has no table " + name));
    }

    /** The plan in JSON, to be written down. */
    public String toJson() {
        return WorkJson.write(this);
    }

    /**
     * Reads a plan.
     *
     * @throws UsageException if the text is none
     */
    public static WorkPlan parse(String json) {
        return WorkJson.read(json, WorkPlan.class, "a plan");
    }

    /**
     * A name for what the plan does: the SHA-256 of its JSON form, in hexadecimal. How fast it is done doesn't count.
     */
    public String hash() {
        return WorkJson.hash(new WorkPlan(order.with(WorkOrder.Flow.DEFAULT), state, tables, tasks, denied));
    }
}
