package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Written;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.tally.Tally;

/** What became of a plan's tasks so far. Safe for use by several threads. */
final class WorkState implements Engine.Events {

    private final WorkPlan plan;
    private final Loading loading;
    private final Function<TableName, Optional<Tally>> kept;
    private final String source;
    private final ProgressListener told;
    private final Map<TableName, TableSum> sums = new LinkedHashMap<>();
    private final Map<TableName, Long> rows = new LinkedHashMap<>();
    private final Map<Integer, SliceResult> results = new ConcurrentHashMap<>();
    private final Map<TableName, FailedTable> failed = new ConcurrentHashMap<>();
    private final List<Finding> findings = Collections.synchronizedList(new ArrayList<>());

    /**
     * The state of a plan of which nothing is done.
     *
     * @param kept the tally that a table must have, where the source keeps one
     * @param source the source's address, for messages
     */
    WorkState(
            WorkPlan plan,
            Loading loading,
            Function<TableName, Optional<Tally>> kept,
            String source,
            ProgressListener told) {
        this.plan = plan;
        this.loading = loading;
        this.kept = kept;
        this.source = source;
        this.told = told;
        plan.tables().forEach(t -> rows.put(t.definition().name(), t.rows()));
        plan.tasks()
                .forEach(t -> sums.computeIfAbsent(
                        t.part().table(), name -> new TableSum(name, t.part().of())));
    }

    @Override
    public boolean isWanted(SliceTask task) {
        // nothing more is read of a table of which one slice can't be
        return !results.containsKey(task.number())
                && !failed.containsKey(task.part().table());
    }

    @Override
    public void started(SliceTask task) {
        begun(task.part().table());
        told.sliceStarted(task.part().table());
    }

    private void begun(TableName table) {
        if (sums.get(table).begin()) {
            told.tableStarted(table, rows.get(table));
        }
    }

    @Override
    public void tryingAgain(SliceTask task, PlaceException failure, long pauseMillis) {
        told.tryingAgain(task.part().table(), failure.getMessage(), pauseMillis);
    }

    @Override
    public void done(SliceTask task, SliceResult result) {
        if (results.putIfAbsent(task.number(), result) != null) {
            return;
        }
        TableName table = task.part().table();
        findings.addAll(result.findings());
        TableSum sum = sums.get(table);
        boolean last = sum.add(result);
        told.sliceFinished(table);
        if (last) {
            MovedTable moved = sum.result();
            kept.apply(table).ifPresent(wanted -> mustAgree(table, wanted, sum.read()));
            told.tableFinished(table, moved.read());
        }
    }

    /**
     * What a receipt says.
     *
     * @throws UsageException if it is none of this plan's
     */
    static SliceResult receipt(WorkPlan plan, int task, String receipt) {
        SliceResult result = SliceResult.parse(receipt);
        if (task < 0
                || task >= plan.tasks().size()
                || !plan.tasks().get(task).part().equals(result.part())) {
            throw new UsageException(
                    "the target has a receipt that no work of this plan has written: " + result.part());
        }
        return result;
    }

    /** A task was done by a run before this one. */
    void resumed(SliceTask task, SliceResult result) {
        TableName table = task.part().table();
        begun(table);
        told.sliceStarted(table);
        told.moved(table, result.written(), result.bytes());
        done(task, result);
    }

    @Override
    public void failed(SliceTask task, PlaceException failure) {
        TableName table = task.part().table();
        if (!failure.isDenied() || !loading.leaveOut(table)) {
            throw failure;
        }
        failed.putIfAbsent(table, new FailedTable(table, failure.getMessage()));
    }

    private void mustAgree(TableName table, Tally wanted, Tally found) {
        if (wanted.isComparableTo(found) && !wanted.equals(found)) {
            throw new BrokenSetException(
                    source,
                    "table " + table + " has " + found.rows() + " records with the digest " + found.digest()
                            + ", and its tally says " + wanted.rows() + " with " + wanted.digest());
        }
    }

    /** Tables that couldn't be read. */
    List<FailedTable> failed() {
        List<FailedTable> all = new ArrayList<>(plan.denied());
        sums.keySet().stream().map(failed::get).filter(Objects::nonNull).forEach(all::add);
        return all;
    }

    List<Finding> findings() {
        return List.copyOf(findings);
    }

    /** Tables of which all slices have moved. */
    List<MovedTable> moved() {
        return sums.entrySet().stream()
                .filter(e -> !failed.containsKey(e.getKey()) && e.getValue().isDone())
                .map(e -> e.getValue().result())
                .toList();
    }

    /** What the load has come to, for its end. */
    Written written(List<LeftBehind> leftBehind) {
        List<Written.Part> parts = new ArrayList<>();
        for (SliceTask task : plan.tasks()) {
            if (!failed.containsKey(task.part().table())) {
                parts.add(
                        new Written.Part(task.part(), results.get(task.number()).tally()));
            }
        }
        return new Written(parts, leftBehind, failed.keySet());
    }
}
