package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Query;
import org.orderlyferry.place.QueryPlace;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/** Makes a plan of an order: looks tables up, and cuts them. */
final class Planner {

    private final WorkOrder order;
    private final Place source;
    private final Cut.Standing standing;
    private final Runnable check;
    private final List<WorkPlan.Table> tables = new ArrayList<>();
    private final List<SliceTask> tasks = new ArrayList<>();
    private final List<FailedTable> denied = new ArrayList<>();

    private Planner(WorkOrder order, Place source, Cut.Standing standing, Runnable check) {
        this.order = order;
        this.source = source;
        this.standing = standing;
        this.check = check;
    }

    /**
     * Plans.
     *
     * @param standing when tables may be cut by where their records stand
     * @param check asked again and again whether to go on
     * @throws UsageException if the source doesn't have what the order asks for
     */
    static WorkPlan plan(WorkOrder order, Place source, Cut.Standing standing, Runnable check) {
        return new Planner(order, source, standing, check).plan();
    }

    private WorkPlan plan() {
        WorkOrder.Selection selection = order.selection();
        boolean onlyQueries =
                selection.tables().isEmpty() && !selection.queries().isEmpty();
        List<TableName> chosen = onlyQueries ? List.of() : TableChoice.of(source, selection.tables());
        Map<TableName, String> by = cutBy(chosen);
        SliceSize size =
                new SliceSize(order.selection().sliceRows(), order.selection().sliceBytes());
        for (TableDefinition table : defined(chosen)) {
            check.run();
            allowed(table.name(), () -> plan(table, size, by));
        }
        Set<TableName> names = new LinkedHashSet<>(chosen);
        for (Query query : selection.queries()) {
            check.run();
            plan(query, names);
        }
        return new WorkPlan(order, source.state().orElse(""), tables, tasks, denied);
    }

    private List<TableDefinition> defined(List<TableName> chosen) {
        List<TableDefinition> defined = new ArrayList<>();
        for (TableName name : chosen) {
            check.run();
            allowed(name, () -> defined.add(source.define(name)));
        }
        return order.kind() == WorkOrder.Kind.LOAD ? LoadingOrder.of(defined) : defined;
    }

    /** If the user lacks the right to a table, an export notes that, and the others go on. */
    private void allowed(TableName table, Runnable work) {
        try {
            work.run();
        } catch (PlaceException e) {
            if (!e.isDenied() || order.kind() != WorkOrder.Kind.EXPORT) {
                throw e;
            }
            denied.add(new FailedTable(table, e.getMessage()));
        }
    }

    private void plan(TableDefinition table, SliceSize size, Map<TableName, String> by) {
        if (order.kind() == WorkOrder.Kind.LOAD) {
            source.check(table);
        }
        long rows = source.estimate(table.name());
        List<Slice> slices = size.slices(source, table, rows, by, standing);
        boolean marked = slices.stream().anyMatch(s -> s.range().standing());
        String mark = marked ? source.mark(table.name(), true).orElse("") : "";
        add(
                new WorkPlan.Table(table, rows, mark),
                slices.stream().map(SliceSource.OfTable::new).toList());
    }

    private void plan(Query query, Set<TableName> names) {
        if (!(source instanceof QueryPlace queryable)) {
            throw new UsageException(source.address() + " can't answer queries; only a database can");
        }
        if (!names.add(query.name())) {
            throw new UsageException("the query's name " + query.name() + " is taken; give another");
        }
        TableDefinition table = queryable.define(query);
        Optional<String> by =
                Optional.ofNullable(order.selection().cutBy().get(query.name().toString()));
        List<KeyRange> ranges = by.map(column ->
                        queryable.cut(query, table, column, order.selection().sliceRows()))
                .orElse(List.of(KeyRange.ALL));
        add(
                new WorkPlan.Table(table, 0),
                ranges.stream()
                        .map(range -> new SliceSource.OfQuery(query, range))
                        .toList());
    }

    private void add(WorkPlan.Table table, List<? extends SliceSource> slices) {
        tables.add(table);
        TableName name = table.definition().name();
        for (int i = 0; i < slices.size(); i++) {
            tasks.add(new SliceTask(new TablePart(tasks.size(), name, i + 1, slices.size()), slices.get(i)));
        }
    }

    private Map<TableName, String> cutBy(List<TableName> chosen) {
        Map<TableName, String> columns = new LinkedHashMap<>();
        Set<String> queries = new LinkedHashSet<>();
        order.selection().queries().forEach(q -> queries.add(q.name().toString()));
        order.selection().cutBy().forEach((name, column) -> {
            if (queries.contains(name)) {
                return;
            }
            TableName table = TableChoice.one(source, name);
            if (!chosen.contains(table)) {
                throw new UsageException("table " + name + " is to be cut, but not to be exported");
            }
            columns.put(table, column);
        });
        return columns;
    }
}
