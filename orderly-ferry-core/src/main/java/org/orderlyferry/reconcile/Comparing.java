package org.orderlyferry.reconcile;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.KeySample;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.OneAtATime;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.tally.ComparisonForm;

/** Compares two places, as it was asked for: all of their records, or a sample. */
final class Comparing {

    private final Reconcile asked;
    private final Place source;
    private final Place target;
    private final ProgressListener told;

    Comparing(Reconcile asked) {
        this(asked, asked.source, asked.target, new OneAtATime(asked.listener));
    }

    private Comparing(Reconcile asked, Place source, Place target, ProgressListener told) {
        this.asked = asked;
        this.source = source;
        this.target = target;
        this.told = told;
    }

    ReconcileResult compared() {
        if (asked.hasDepth(Depth.COUNTS) && takesTotals()) {
            throw new UsageException("control totals are computed from all values, which counting alone doesn't read");
        }
        if (asked.before.isPresent() && takesTotals()) {
            throw new UsageException("control totals of records that were added to others can't be told apart");
        }
        if (!asked.hasDepth(Depth.ROWS) && !asked.rules.isEmpty()) {
            throw new UsageException(
                    "rules of comparison need the depth of rows, where what they make equal is counted");
        }
        if (asked.keep.isPresent()
                && (!asked.depths.isEmpty()
                        || asked.depth == Depth.COUNTS
                        || takesTotals()
                        || asked.share < KeySample.CLASSES)) {
            throw new UsageException("only a comparison of all records, without totals, can be kept and gone on with");
        }
        told.stage(ProgressListener.Stage.PLANNING);
        List<TableName> chosen = TableChoice.of(source, asked.patterns);
        List<TableDefinition> named =
                target.named(chosen.stream().map(source::define).toList());
        List<TablePair> pairs = asked.as
                .map(name -> List.of(told(chosen, named, name)))
                .orElseGet(() -> TablePair.of(chosen, named, target.tables(), asked.patterns.isEmpty()));
        if (pairs.isEmpty()) {
            throw new UsageException(
                    "neither " + source.address() + " nor " + target.address() + " has any table to compare");
        }
        RowOrder order = new RowOrder(asked.keys, asked.rules, asked.differences, asked.wanted);
        order.mustBeOf(pairs, source, target);
        if (asked.share < KeySample.CLASSES) {
            return sampled(pairs, order);
        }
        return compared(pairs, order);
    }

    /** The same of two places of which only a sample is seen, and the numbers of all records. */
    private ReconcileResult sampled(List<TablePair> pairs, RowOrder order) {
        if (asked.hasDepth(Depth.COUNTS) || asked.before.isPresent() || takesTotals()) {
            throw new UsageException("a sample is of records that are compared, not of counts and totals");
        }
        Sampling at = new Sampling(source, asked.share);
        Sampling to = new Sampling(target, asked.share);
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
        ReconcileResult result = new Comparing(asked, at, to, told).compared(pairs, order);
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
        SampleCount count = new SampleCount(BigDecimal.valueOf(asked.share, 2), rows, all);
        return new ReconcileResult(asked.depth, tables, result.findings(), result.definitions(), Optional.of(count));
    }

    private ReconcileResult compared(List<TablePair> pairs, RowOrder order) {
        long rows = pairs.stream().mapToLong(this::expected).sum();
        told.planned(pairs.stream().map(TablePair::shown).toList(), rows);
        told.stage(ProgressListener.Stage.MOVING);
        List<Finding> findings = new ArrayList<>();
        pairs.stream()
                .filter(TablePair::isUnlike)
                .forEach(p -> findings.add(Finding.of(
                        FindingCode.NAME_CHANGED,
                        p.source(),
                        "is compared with table " + p.target() + " of the target")));
        Map<TablePair, ComparedTable> digests = new LinkedHashMap<>();
        for (Depth depth : List.of(Depth.DIGESTS, Depth.ROWS)) {
            List<TablePair> read =
                    pairs.stream().filter(p -> asked.depthOf(p) == depth).toList();
            if (!read.isEmpty()) {
                digests.putAll(byDigests(read, depth, order, findings));
            }
        }
        List<ComparedTable> compared = new ArrayList<>();
        for (TablePair pair : pairs) {
            asked.stop.check();
            compared.add(digests.containsKey(pair) ? digests.get(pair) : byCount(pair));
        }
        Optional<ComparedDefinitions> definitions = asked.withDefinitions
                ? Optional.of(new DefinitionsOfPairs(source, target).compare(pairs, findings))
                : Optional.empty();
        return new ReconcileResult(asked.depth, compared, findings, definitions, Optional.empty());
    }

    private TablePair told(List<TableName> chosen, List<TableDefinition> named, TableName name) {
        if (chosen.size() != 1) {
            throw new UsageException(
                    "one table is compared as " + name + ", and these are " + chosen.size() + ": " + Listed.of(chosen));
        }
        return new TablePair(chosen.get(0), named.get(0), TableChoice.one(target, name.toString()));
    }

    /** What servers compute is held against what is computed here. */
    private boolean takesTotals() {
        return asked.withTotals || asked.withServerTotals;
    }

    private Map<TablePair, ComparedTable> byDigests(
            List<TablePair> pairs, Depth depth, RowOrder order, List<Finding> findings) {
        Map<TablePair, ComparedTable> compared = new LinkedHashMap<>();
        if (mayAskServers()) {
            compared.putAll(new ServerComparison(source, target, this::columns)
                    .equal(
                            pairs,
                            findings,
                            seed -> comparison(Optional.empty(), Optional.empty(), OptionalLong.of(seed))));
            if (depth == Depth.ROWS) {
                compared.replaceAll(this::withoutDifference);
            }
        }
        List<TablePair> open =
                pairs.stream().filter(p -> !compared.containsKey(p)).toList();
        if (!open.isEmpty()) {
            compared.putAll(byValues(open, depth, order, findings));
        }
        return compared;
    }

    /** What reads and keeps values needs them to come; and how fast a server goes through them can't be told it. */
    private boolean mayAskServers() {
        return asked.byServers
                && !takesTotals()
                && asked.share == KeySample.CLASSES
                && asked.before.isEmpty()
                && asked.keep.isEmpty()
                && asked.far.isEmpty()
                && asked.rowsPerSecond == 0
                && asked.bytesPerSecond == 0;
    }

    private ComparedTable withoutDifference(TablePair pair, ComparedTable table) {
        return table.withRows(RowCounts.NONE, AppliedRule.without(columns(pair).leftOut()), List.of());
    }

    private Map<TablePair, ComparedTable> byValues(
            List<TablePair> pairs, Depth depth, RowOrder order, List<Finding> findings) {
        if (asked.keep.isEmpty()) {
            return byValues(pairs, depth, order, findings, Optional.empty());
        }
        try (KeptTallies kept = new KeptTallies(asked.keep.get(), depth == Depth.ROWS)) {
            Map<TablePair, ComparedTable> compared = byValues(pairs, depth, order, findings, Optional.of(kept));
            kept.done();
            return compared;
        }
    }

    private Map<TablePair, ComparedTable> byValues(
            List<TablePair> pairs, Depth depth, RowOrder order, List<Finding> findings, Optional<KeptTallies> kept) {
        Optional<FarSides> readers = takesTotals() || asked.share < KeySample.CLASSES ? Optional.empty() : asked.far;
        if (depth == Depth.DIGESTS) {
            return comparison(kept, readers, OptionalLong.empty()).compare(pairs, findings, Optional.empty());
        }
        Map<TablePair, ComparedTable> compared = new LinkedHashMap<>();
        List<Finding> first = new ArrayList<>();
        if (readers.isPresent()) {
            compared.putAll(comparison(Optional.empty(), readers, OptionalLong.empty())
                    .compare(pairs, first, Optional.empty()));
            compared.values().removeIf(table -> !table.hasEqualDigests());
            compared.replaceAll(this::withoutDifference);
        }
        List<TablePair> open =
                pairs.stream().filter(p -> !compared.containsKey(p)).toList();
        if (!open.isEmpty()) {
            try (RowComparison byRows = new RowComparison(source, target, asked.before, order, kept, asked.stop)) {
                compared.putAll(comparison(kept, Optional.empty(), OptionalLong.empty())
                        .compare(open, findings, Optional.of(byRows)));
            }
        }
        // what is read a second time tells the same again
        first.stream().filter(f -> !findings.contains(f)).forEach(findings::add);
        return compared;
    }

    private DigestComparison comparison(Optional<KeptTallies> kept, Optional<FarSides> readers, OptionalLong seed) {
        return new DigestComparison(
                source,
                target,
                asked.before,
                new DigestComparison.How(
                        asked.lanes,
                        asked.sliceRows,
                        asked.rowsPerSecond,
                        asked.bytesPerSecond,
                        takesTotals(),
                        asked.withServerTotals,
                        kept,
                        readers,
                        seed,
                        told,
                        asked.stop,
                        this::columns));
    }

    private ColumnPairs columns(TablePair pair) {
        TableDefinition table = source.define(pair.source());
        RowOrder order = new RowOrder(asked.keys, asked.rules, asked.differences, asked.wanted);
        TableDefinition there = target.define(pair.target(), pair.named().columns());
        return ColumnPairs.of(table, pair.named(), there, c -> order.isWithout(table, c));
    }

    /** How many records will be read of a pair, for the progress; a set's own tally is trusted for no more than that. */
    private long expected(TablePair pair) {
        return pair.source() == null || pair.target() == null || asked.depthOf(pair) == Depth.COUNTS
                ? 0
                : source.estimate(pair.source()) + target.estimate(pair.target());
    }

    private ComparedTable byCount(TablePair pair) {
        return new CountComparison(source, target, asked.before).compare(pair, this::columns);
    }
}
