package org.orderlyferry.reconcile;

import java.math.BigDecimal;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.KeySample;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.OneAtATime;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.progress.Stoppable;
import org.orderlyferry.tally.ComparisonForm;

/**
 * Compares two places, table by table, by what they hold now: nothing that was counted before is trusted. Not safe for
 * use by several threads.
 *
 * <pre>{@code
 * ReconcileResult result = Reconcile.between(source, target).depth(Depth.DIGESTS).compare();
 * }</pre>
 */
@NullMarked
public final class Reconcile {

    private final Place source;
    private final Place target;
    private final List<String> patterns = new ArrayList<>();
    private Depth depth = Depth.DIGESTS;
    private ProgressListener listener = ProgressListener.NONE;
    private StopSignal stop = new StopSignal();
    private ProgressListener told = ProgressListener.NONE;
    private int lanes = 1;
    private long sliceRows = Cut.DEFAULT_ROWS;
    private long rowsPerSecond;
    private long bytesPerSecond;
    private Optional<Place> before = Optional.empty();
    private final Map<String, List<String>> keys = new LinkedHashMap<>();
    private final List<ComparisonRule> rules = new ArrayList<>();
    private DifferenceListener differences = difference -> {};
    private long wanted;
    private Optional<TableName> as = Optional.empty();
    private boolean withTotals;
    private boolean withServerTotals;
    private Optional<Path> keep = Optional.empty();
    private int share = KeySample.CLASSES;
    private boolean withDefinitions;

    private Reconcile(Place source, Place target) {
        this.source = source;
        this.target = target;
    }

    /** Compares two places, all of the source's tables unless told otherwise. */
    public static Reconcile between(Place source, Place target) {
        return new Reconcile(source, target);
    }

    /** How deeply; {@link Depth#DIGESTS} unless told otherwise. */
    public Reconcile depth(Depth value) {
        depth = value;
        return this;
    }

    /**
     * By which columns records are told apart at the depth of rows. Unless told otherwise: the primary key, a unique key of
     * columns that are never null, or the whole record.
     *
     * @param tables a table's name at the source; {@code *} in it stands for any characters
     * @param columns by the source's names
     */
    public Reconcile key(String tables, List<String> columns) {
        keys.put(tables, List.copyOf(columns));
        return this;
    }

    /** What doesn't count when values are compared; at the depth of rows, where what a rule makes equal can be counted. */
    public Reconcile rules(List<ComparisonRule> value) {
        rules.clear();
        rules.addAll(value);
        return this;
    }

    /**
     * Who hears of the records that differ, at the depth of rows.
     *
     * @param most of how many, at most; all are counted in any case
     */
    public Reconcile differences(DifferenceListener value, long most) {
        differences = value;
        wanted = most;
        return this;
    }

    /**
     * Whether control totals are taken of each column on both sides: counts, smallest, largest, sums. They are computed from
     * the values that are read, so not at the depth of counts.
     */
    public Reconcile totals(boolean value) {
        withTotals = value;
        return this;
    }

    /**
     * Whether both ends also compute control totals by their own SQL, where they have one, before anything is read; one that
     * says otherwise makes the ends different. Takes totals, too.
     */
    public Reconcile serverTotals(boolean value) {
        withServerTotals = value;
        return this;
    }

    /**
     * Whether definitions are compared too: types, nulls, defaults, keys, references, indexes, counters, and what no load
     * carries.
     */
    public Reconcile definitions(boolean value) {
        withDefinitions = value;
        return this;
    }

    /**
     * A folder in which tallies are kept, slice by slice, until the comparison has come to its end: one that was stopped or
     * killed goes on with them. Where single records are looked for, their digests are kept there too, forty bytes each.
     */
    public Reconcile keep(Path folder) {
        keep = Optional.of(folder);
        return this;
    }

    /**
     * Compares only the records of a sample, the same ones on both sides, and the numbers of all. They are picked by a hash of
     * their keys; a server leaves the others out itself where the key is one whole number, and elsewhere all are read. Two
     * places are never equal by a sample.
     *
     * @param percent from 0.01 to 99.99, in hundredths
     */
    public Reconcile sample(BigDecimal percent) {
        BigDecimal classes = percent.movePointRight(2);
        if (classes.compareTo(BigDecimal.ONE) < 0
                || classes.compareTo(BigDecimal.valueOf(KeySample.CLASSES)) >= 0
                || classes.stripTrailingZeros().scale() > 0) {
            throw new UsageException("a sample is from 0.01 to 99.99 percent of the records, in hundredths");
        }
        share = classes.intValueExact();
        return this;
    }

    /** What the one table of the source is called at the target. */
    public Reconcile as(TableName name) {
        as = Optional.of(name);
        return this;
    }

    /** Only these tables of the source; {@code *} in a name stands for any characters. */
    public Reconcile tables(String... names) {
        patterns.addAll(List.of(names));
        return this;
    }

    /** Who hears of records that are counted; nobody unless told otherwise. */
    public Reconcile listener(ProgressListener value) {
        listener = value;
        return this;
    }

    /** What may end it before its end, from another thread. */
    public Reconcile stopSignal(StopSignal value) {
        stop = value;
        return this;
    }

    /** How many slices are read at once on each side, at most; one unless told otherwise. */
    public Reconcile lanes(int value) {
        if (value < 1) {
            throw new UsageException("at least one lane is needed");
        }
        lanes = value;
        return this;
    }

    /** Cut larger tables into slices of about so many records. */
    public Reconcile sliceRows(long value) {
        if (value < 1) {
            throw new UsageException("a slice has at least one record");
        }
        sliceRows = value;
        return this;
    }

    /** How many records and bytes of values are read a second on each side, at most; 0 for any number. */
    public Reconcile pace(long rows, long bytes) {
        rowsPerSecond = rows;
        bytesPerSecond = bytes;
        return this;
    }

    /**
     * What the target had before the source's records were added to it, by the target's names: a table of it counts on the
     * source's side as well, so that both together must be what is there now.
     */
    public Reconcile onto(Place beforehand) {
        before = Optional.of(beforehand);
        return this;
    }

    /** Does it. */
    public ReconcileResult compare() {
        return Stoppable.run(
                stop,
                () -> {
                    source.cancel();
                    target.cancel();
                },
                this::compared);
    }

    private ReconcileResult compared() {
        if (depth == Depth.COUNTS && takesTotals()) {
            throw new UsageException("control totals are computed from all values, which counting alone doesn't read");
        }
        if (before.isPresent() && takesTotals()) {
            throw new UsageException("control totals of records that were added to others can't be told apart");
        }
        if (depth != Depth.ROWS && !rules.isEmpty()) {
            throw new UsageException(
                    "rules of comparison need the depth of rows, where what they make equal is counted");
        }
        if (keep.isPresent() && (depth == Depth.COUNTS || takesTotals() || share < KeySample.CLASSES)) {
            throw new UsageException("only a comparison of all records, without totals, can be kept and gone on with");
        }
        told = new OneAtATime(listener);
        told.stage(ProgressListener.Stage.PLANNING);
        List<TableName> chosen = TableChoice.of(source, patterns);
        List<TableDefinition> named =
                target.named(chosen.stream().map(source::define).toList());
        List<TablePair> pairs = as.map(name -> List.of(told(chosen, named, name)))
                .orElseGet(() -> TablePair.of(chosen, named, target.tables(), patterns.isEmpty()));
        if (pairs.isEmpty()) {
            throw new UsageException(
                    "neither " + source.address() + " nor " + target.address() + " has any table to compare");
        }
        RowOrder order = new RowOrder(keys, rules, differences, wanted);
        order.mustBeOf(pairs, source, target);
        if (share < KeySample.CLASSES) {
            return sampled(pairs, order);
        }
        return compared(pairs, order);
    }

    /** The same of two places of which only a sample is seen, and the numbers of all records. */
    private ReconcileResult sampled(List<TablePair> pairs, RowOrder order) {
        if (depth == Depth.COUNTS || before.isPresent() || takesTotals()) {
            throw new UsageException("a sample is of records that are compared, not of counts and totals");
        }
        Sampling at = new Sampling(source, share);
        Sampling to = new Sampling(target, share);
        for (TablePair pair : pairs) {
            if (pair.source() != null && pair.target() != null) {
                ColumnPairs columns = columns(pair);
                RowKey key = RowKey.of(order, source.define(pair.source()), target.define(pair.target()), columns);
                List<ComparisonForm> forms = Arrays.stream(key.places())
                        .mapToObj(columns.forms()::get)
                        .toList();
                at.pick(pair.source(), key.columns(), forms, key.whole());
                to.pick(
                        pair.target(),
                        Arrays.stream(key.places())
                                .mapToObj(columns.targetNames()::get)
                                .toList(),
                        forms,
                        key.whole());
            }
        }
        Reconcile some = new Reconcile(at, to);
        some.depth = depth;
        some.keys.putAll(keys);
        some.rules.addAll(rules);
        some.differences = differences;
        some.wanted = wanted;
        some.withDefinitions = withDefinitions;
        some.lanes = lanes;
        some.sliceRows = sliceRows;
        some.rowsPerSecond = rowsPerSecond;
        some.bytesPerSecond = bytesPerSecond;
        some.stop = stop;
        some.told = told;
        ReconcileResult result = some.compared(pairs, order);
        long rows = 0;
        long all = 0;
        List<ComparedTable> tables = new ArrayList<>();
        for (int i = 0; i < pairs.size(); i++) {
            ComparedTable counts = byCount(pairs.get(i));
            ComparedTable picked = result.tables().get(i);
            // a table that has no partner, or no column in common with it, was only counted
            rows += picked.sourceDigest().isEmpty() ? 0 : picked.sourceRows().orElse(0);
            all += counts.sourceRows().orElse(0);
            tables.add(picked.withCounts(counts));
        }
        SampleCount count = new SampleCount(BigDecimal.valueOf(share, 2), rows, all);
        return new ReconcileResult(depth, tables, result.findings(), result.definitions(), Optional.of(count));
    }

    private ReconcileResult compared(List<TablePair> pairs, RowOrder order) {
        long rows = depth == Depth.COUNTS
                ? 0
                : pairs.stream().mapToLong(this::expected).sum();
        told.planned(pairs.stream().map(TablePair::shown).toList(), rows);
        told.stage(ProgressListener.Stage.MOVING);
        List<Finding> findings = new ArrayList<>();
        pairs.stream()
                .filter(TablePair::isUnlike)
                .forEach(p -> findings.add(Finding.of(
                        FindingCode.NAME_CHANGED,
                        p.source(),
                        "is compared with table " + p.target() + " of the target")));
        Map<TablePair, ComparedTable> digests = depth == Depth.COUNTS ? Map.of() : byDigests(pairs, order, findings);
        List<ComparedTable> compared = new ArrayList<>();
        for (TablePair pair : pairs) {
            stop.check();
            compared.add(digests.containsKey(pair) ? digests.get(pair) : byCount(pair));
        }
        Optional<ComparedDefinitions> definitions = withDefinitions
                ? Optional.of(new DefinitionsOfPairs(source, target).compare(pairs, findings))
                : Optional.empty();
        return new ReconcileResult(depth, compared, findings, definitions, Optional.empty());
    }

    private TablePair told(List<TableName> chosen, List<TableDefinition> named, TableName name) {
        if (chosen.size() != 1) {
            throw new UsageException("one table is compared as " + name + ", and these are " + chosen.size() + ": "
                    + String.join(", ", chosen.stream().map(TableName::toString).toList()));
        }
        return new TablePair(chosen.get(0), named.get(0), TableChoice.one(target, name.toString()));
    }

    /** What servers compute is held against what is computed here. */
    private boolean takesTotals() {
        return withTotals || withServerTotals;
    }

    private Map<TablePair, ComparedTable> byDigests(List<TablePair> pairs, RowOrder order, List<Finding> findings) {
        if (keep.isEmpty()) {
            return byDigests(pairs, order, findings, Optional.empty());
        }
        try (KeptTallies kept = new KeptTallies(keep.get(), depth == Depth.ROWS)) {
            Map<TablePair, ComparedTable> compared = byDigests(pairs, order, findings, Optional.of(kept));
            kept.done();
            return compared;
        }
    }

    private Map<TablePair, ComparedTable> byDigests(
            List<TablePair> pairs, RowOrder order, List<Finding> findings, Optional<KeptTallies> kept) {
        if (depth == Depth.DIGESTS) {
            return comparison(kept).compare(pairs, findings, Optional.empty());
        }
        try (RowComparison byRows = new RowComparison(source, target, before, order, kept, stop)) {
            return comparison(kept).compare(pairs, findings, Optional.of(byRows));
        }
    }

    private DigestComparison comparison(Optional<KeptTallies> kept) {
        return new DigestComparison(
                source,
                target,
                before,
                new DigestComparison.How(
                        lanes,
                        sliceRows,
                        rowsPerSecond,
                        bytesPerSecond,
                        takesTotals(),
                        withServerTotals,
                        kept,
                        told,
                        stop,
                        this::columns));
    }

    private ColumnPairs columns(TablePair pair) {
        TableDefinition table = source.define(pair.source());
        RowOrder order = new RowOrder(keys, rules, differences, wanted);
        TableDefinition there = target.define(pair.target(), pair.named().columns());
        return ColumnPairs.of(table, pair.named(), there, c -> order.isWithout(table, c));
    }

    /** How many records will be read of a pair, for the progress; a set's own tally is trusted for no more than that. */
    private long expected(TablePair pair) {
        return pair.source() == null || pair.target() == null
                ? 0
                : source.estimate(pair.source()) + target.estimate(pair.target());
    }

    private ComparedTable byCount(TablePair pair) {
        return new CountComparison(source, target, before).compare(pair, this::columns);
    }
}
