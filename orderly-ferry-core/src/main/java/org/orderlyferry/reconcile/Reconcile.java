package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.OptionalLong;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.Crew;
import org.orderlyferry.progress.OneAtATime;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.tally.ColumnTally;
import org.orderlyferry.tally.ComparisonForm;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.tally.TallyTaker;

/**
 * Compares two places, table by table, by what they hold now: nothing that was counted before is trusted. Not safe for
 * use by several threads.
 *
 * <pre>{@code
 * ReconcileResult result = Reconcile.between(source, target).depth(Depth.DIGESTS).compare();
 * }</pre>
 */
public final class Reconcile {

    private final Place source;
    private final Place target;
    private final List<String> patterns = new ArrayList<>();
    private Depth depth = Depth.DIGESTS;
    private ProgressListener listener = ProgressListener.NONE;
    private StopSignal stop = new StopSignal();
    private ProgressListener told;

    private Reconcile(Place source, Place target) {
        this.source = source;
        this.target = target;
    }

    public static Reconcile between(Place source, Place target) {
        return new Reconcile(source, target);
    }

    /** How deeply; {@link Depth#DIGESTS} unless told otherwise. */
    public Reconcile depth(Depth value) {
        depth = value;
        return this;
    }

    /** Only these tables of the source; {@code *} in a name stands for any characters. */
    public Reconcile tables(String... names) {
        patterns.addAll(List.of(names));
        return this;
    }

    public Reconcile listener(ProgressListener value) {
        listener = value;
        return this;
    }

    public Reconcile stopSignal(StopSignal value) {
        stop = value;
        return this;
    }

    /** Does it. */
    public ReconcileResult compare() {
        told = new OneAtATime(listener);
        told.stage(ProgressListener.Stage.PLANNING);
        List<TableName> chosen = TableChoice.of(source, patterns);
        List<TableDefinition> named =
                target.named(chosen.stream().map(source::define).toList());
        List<TablePair> pairs = TablePair.of(chosen, named, target.tables(), patterns.isEmpty());
        if (pairs.isEmpty()) {
            throw new UsageException(
                    "neither " + source.address() + " nor " + target.address() + " has any table to compare");
        }
        long rows = depth == Depth.COUNTS
                ? 0
                : pairs.stream().mapToLong(this::expected).sum();
        told.planned(pairs.stream().map(TablePair::shown).toList(), rows);
        told.stage(ProgressListener.Stage.MOVING);
        List<ComparedTable> compared = new ArrayList<>();
        List<Finding> findings = Collections.synchronizedList(new ArrayList<>());
        for (TablePair pair : pairs) {
            stop.check();
            compared.add(compare(pair, findings));
        }
        return new ReconcileResult(depth, compared, findings);
    }

    /** How many records will be read of a pair, for the progress; a set's own tally is trusted for no more than that. */
    private long expected(TablePair pair) {
        return pair.source() == null || pair.target() == null
                ? 0
                : expected(source, pair.source()) + expected(target, pair.target());
    }

    private static long expected(Place place, TableName table) {
        return place.keptTally(table).map(Tally::rows).orElseGet(() -> place.estimate(table));
    }

    private ComparedTable compare(TablePair pair, List<Finding> findings) {
        if (pair.target() == null) {
            return alone(pair.source(), OptionalLong.of(source.count(pair.source())), OptionalLong.empty());
        }
        if (pair.source() == null) {
            return alone(pair.target(), OptionalLong.empty(), OptionalLong.of(target.count(pair.target())));
        }
        ColumnPairs columns = ColumnPairs.of(source.define(pair.source()), pair.named(), target.define(pair.target()));
        return depth == Depth.COUNTS ? counts(pair, columns) : digests(pair, columns, findings);
    }

    private static ComparedTable alone(TableName table, OptionalLong sourceRows, OptionalLong targetRows) {
        Verdict verdict = sourceRows.isPresent() ? Verdict.MISSING_IN_TARGET : Verdict.MISSING_IN_SOURCE;
        return new ComparedTable(table, sourceRows, targetRows, verdict, List.of(), List.of(), List.of(), "", "");
    }

    private ComparedTable counts(TablePair pair, ColumnPairs columns) {
        long sourceRows = source.count(pair.source());
        long targetRows = target.count(pair.target());
        boolean equal = sourceRows == targetRows && columns.areComplete();
        return new ComparedTable(
                pair.source(),
                OptionalLong.of(sourceRows),
                OptionalLong.of(targetRows),
                equal ? Verdict.EQUAL : Verdict.DIFFERENT,
                List.of(),
                columns.onlyAtSource(),
                columns.onlyAtTarget(),
                "",
                "");
    }

    private ComparedTable digests(TablePair pair, ColumnPairs columns, List<Finding> findings) {
        Tally[] sides = new Tally[2];
        Crew crew = new Crew(stop);
        List<Runnable> tasks = List.of(
                () -> sides[0] =
                        tally(source, pair.source(), columns.sourceNames(), columns.forms(), findings, crew::check),
                () -> sides[1] =
                        tally(target, pair.target(), columns.targetNames(), columns.forms(), findings, crew::check));
        // both at once: each side has its own connection, and when one fails the other stops
        crew.work(List.of(source, target), tasks, (place, task) -> task.run());
        Tally at = sides[0];
        Tally to = sides[1];
        List<String> differing = new ArrayList<>();
        for (int i = 0; i < at.columns().size(); i++) {
            ColumnTally one = at.columns().get(i);
            ColumnTally other = to.columns().get(i);
            if (!one.digest().equals(other.digest())) {
                differing.add(one.name());
            }
        }
        boolean equal = at.rows() == to.rows() && at.digest().equals(to.digest()) && columns.areComplete();
        return new ComparedTable(
                pair.source(),
                OptionalLong.of(at.rows()),
                OptionalLong.of(to.rows()),
                equal ? Verdict.EQUAL : Verdict.DIFFERENT,
                differing,
                columns.onlyAtSource(),
                columns.onlyAtTarget(),
                at.digest().toString(),
                to.digest().toString());
    }

    private Tally tally(
            Place place,
            TableName table,
            List<String> columns,
            List<ComparisonForm> forms,
            List<Finding> findings,
            Runnable check) {
        TallyTaker taker = new TallyTaker(columns, forms);
        RecordBatch batch = new RecordBatch();
        told.tableStarted(table, 0);
        try (RecordReader reader = place.read(new Slice(table, columns))) {
            while (reader.read(batch)) {
                check.run();
                taker.add(batch);
                told.moved(table, batch.rows(), batch.valueBytes());
            }
            findings.addAll(reader.findings());
        }
        told.tableFinished(table, taker.rows());
        Tally tally = taker.tally();
        place.keptTally(table)
                .filter(kept -> kept.isComparableTo(tally) && !kept.equals(tally))
                .ifPresent(kept -> findings.add(Finding.of(
                        table,
                        place.address() + " was changed after it was made: it was tallied with " + kept.rows()
                                + " records, digest " + kept.digest())));
        return tally;
    }

    /** The columns of both sides that have each other's name. */
    private record ColumnPairs(
            List<String> sourceNames,
            List<String> targetNames,
            List<ComparisonForm> forms,
            List<String> onlyAtSource,
            List<String> onlyAtTarget) {

        static ColumnPairs of(TableDefinition source, TableDefinition named, TableDefinition target) {
            List<String> sourceNames = new ArrayList<>();
            List<String> targetNames = new ArrayList<>();
            List<ComparisonForm> forms = new ArrayList<>();
            List<String> onlyAtSource = new ArrayList<>();
            for (int i = 0; i < source.columns().size(); i++) {
                ColumnDefinition column = source.columns().get(i);
                ColumnDefinition other = target.column(named.columns().get(i).name())
                        .or(() -> target.columns().stream()
                                .filter(c -> c.name().equalsIgnoreCase(column.name()))
                                .findFirst())
                        .orElse(null);
                if (other == null || targetNames.contains(other.name())) {
                    onlyAtSource.add(column.name());
                } else {
                    sourceNames.add(column.name());
                    targetNames.add(other.name());
                    forms.add(ComparisonForm.between(column.type(), other.type()));
                }
            }
            List<String> onlyAtTarget = target.columnNames().stream()
                    .filter(n -> !targetNames.contains(n))
                    .toList();
            return new ColumnPairs(sourceNames, targetNames, forms, onlyAtSource, onlyAtTarget);
        }

        boolean areComplete() {
            return onlyAtSource.isEmpty() && onlyAtTarget.isEmpty();
        }
    }
}
