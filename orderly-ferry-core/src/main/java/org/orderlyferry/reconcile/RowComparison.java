package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.progress.StopSignal;

/** The records of tables by both sides' digests, and those that differ, as far as they are asked for. For one use. */
final class RowComparison implements AutoCloseable {

    private static final int MOST_BUCKETS = 8192;
    private static final int LEAST_BUCKETS = 16;
    private static final int ROWS_A_BUCKET = 16;

    /** Entries of a part are looked into at once. */
    private static final int ROWS_A_PART = 200_000;

    private static final int MOST_PARTS = 128;

    private final RowOrder order;
    private final StopSignal stop;
    private final EntryStore store;
    private final Optional<KeptTallies> kept;
    private final RowSide source;
    private final RowSide target;
    private final Optional<RowSide> before;
    private final Map<TableName, Pair> pairs = new HashMap<>();
    private long told;

    /** Two tables, and by what their records are told apart. */
    private record Pair(
            TableName targetName,
            TableDefinition shown,
            List<LogicalType> targetTypes,
            ColumnPairs columns,
            RowKey key) {}

    RowComparison(
            Place source,
            Place target,
            Optional<Place> before,
            RowOrder order,
            Optional<KeptTallies> kept,
            StopSignal stop) {
        this.order = order;
        this.stop = stop;
        this.kept = kept;
        this.store = kept.flatMap(KeptTallies::entries).orElseGet(EntryStore::temporary);
        this.source = new RowSide(source, store);
        this.target = new RowSide(target, store);
        this.before = before.map(place -> new RowSide(place, store));
    }

    RowSide source() {
        return source;
    }

    RowSide target() {
        return target;
    }

    Optional<RowSide> before() {
        return before;
    }

    /** Makes ready for two tables, before any record is read. */
    void expect(TableName name, ColumnPairs columns, TableName other) {
        TableDefinition at = source.place().define(name);
        TableDefinition to = target.place().define(other);
        RowKey found = RowKey.of(order, at, to, columns);
        boolean ranges = source.place().rangesByValue(name, found.columns())
                && target.place().rangesByValue(other, columns.atTarget(found.columns()));
        RowKey key = ranges ? found : found.withoutRanges();
        List<LogicalType> types = columns.targetNames().stream()
                .map(c -> to.column(c).orElseThrow().type())
                .toList();
        pairs.put(name, new Pair(other, shown(at, columns, types), types, columns, key));
        long now = Math.max(source.place().estimate(name), target.place().estimate(other));
        long rows = kept.map(k -> k.rows(name, now)).orElse(now);
        int buckets = (int)
                Math.max(LEAST_BUCKETS, Math.min(MOST_BUCKETS, Long.highestOneBit(Math.max(1, rows / ROWS_A_BUCKET))));
        int parts = (int) Math.min(Math.min(MOST_PARTS, buckets), Long.highestOneBit(Math.max(1, rows / ROWS_A_PART)));
        source.expect(name, key, buckets, parts);
        target.expect(other, key, buckets, parts);
        before.ifPresent(side -> side.expect(other, key, buckets, parts));
    }

    /** The table with types that hold both sides' values, and without rules that both sides' records together would break. */
    private static TableDefinition shown(TableDefinition at, ColumnPairs columns, List<LogicalType> targetTypes) {
        TableDefinition.Builder shown = TableDefinition.named(at.name().name()).name(at.name());
        for (int i = 0; i < targetTypes.size(); i++) {
            String name = columns.sourceNames().get(i);
            shown.column(ColumnDefinition.named(
                            name, both(at.column(name).orElseThrow().type(), targetTypes.get(i)))
                    .build());
        }
        return shown.build();
    }

    private static LogicalType both(LogicalType one, LogicalType other) {
        if (one.equals(other)) {
            return one;
        }
        if (one.name() == other.name() && one.element() == null && !one.name().isText()) {
            return one.name().isBinary() ? LogicalType.BLOB : LogicalType.of(one.name());
        }
        return one.name().isBinary() && other.name().isBinary() ? LogicalType.BLOB : LogicalType.CLOB;
    }

    /** Looks for the records that differ, when both sides were read, and tells of those that are asked for. */
    ComparedTable look(ComparedTable compared, boolean had, List<Finding> findings) {
        Pair pair = pairs.get(compared.table());
        List<AppliedRule> applied =
                new ArrayList<>(AppliedRule.without(pair.columns().leftOut()));
        if (compared.hasEqualDigests()) {
            return compared.withRows(RowCounts.NONE, applied, List.of());
        }
        List<RowFetch.Side> sources = new ArrayList<>();
        sources.add(new RowFetch.Side(source, source.entries(compared.table())));
        if (had) {
            before.ifPresent(side -> sources.add(new RowFetch.Side(side, side.entries(pair.targetName()))));
        }
        RowFetch.Side there = new RowFetch.Side(target, target.entries(pair.targetName()));
        RuleCount rules = new RuleCount(order.rules(), sourceTypes(pair), pair.targetTypes());
        Telling telling = new Telling(pair, rules);
        long[] lost = {0};
        RowSearch search =
                new RowSearch(sources.stream().map(RowFetch.Side::entries).toList(), there.entries(), stop);
        RowCounts counts = search.run(keys -> {
            long most = order.rules().isEmpty() ? order.wanted() - told : Long.MAX_VALUE;
            if (most > 0) {
                lost[0] += new RowFetch(sources, there, pair.columns(), telling, stop).run(keys.first(most));
            }
        });
        if (lost[0] > 0) {
            findings.add(
                    Finding.of(
                            FindingCode.ROWS_CHANGED,
                            compared.table(),
                            lost[0]
                                    + " of the records that differ were gone when they were read again: somebody writes there"));
        }
        RowCounts left = order.rules().isEmpty() ? counts : telling.counts(lost[0]);
        applied.addAll(rules.applied());
        // columns' sums differ by missing records too, so what was seen of the records says more, if it was all
        boolean seen = telling.counts(0).all() == left.all();
        return compared.withRows(left, applied, seen ? List.copyOf(telling.columns) : compared.differing());
    }

    private List<LogicalType> sourceTypes(Pair pair) {
        TableDefinition at = source.place().define(pair.shown().name());
        return pair.columns().sourceNames().stream()
                .map(c -> at.column(c).orElseThrow().type())
                .toList();
    }

    /** Tells of records, as long as they are asked for. */
    private final class Telling implements RowFetch.Taking {

        private final Pair pair;
        private final RuleCount rules;
        private final Set<String> columns = new LinkedHashSet<>();
        private long missing;
        private long extra;
        private long different;

        Telling(Pair pair, RuleCount rules) {
            this.pair = pair;
            this.rules = rules;
        }

        /** All of them; those that couldn't be looked at again are taken for different. */
        RowCounts counts(long lost) {
            return new RowCounts(missing, extra, different + lost);
        }

        @Override
        public void missing(RecordValues record) {
            missing++;
            tell(RowDifference.Kind.MISSING, Optional.of(record), Optional.empty(), List.of());
        }

        @Override
        public void extra(RecordValues record) {
            extra++;
            tell(RowDifference.Kind.EXTRA, Optional.empty(), Optional.of(record), List.of());
        }

        @Override
        public void different(RecordValues one, RecordValues other) {
            List<Integer> differing =
                    rules.differing(RowFetch.differing(pair.columns().forms(), one, other), one, other);
            if (differing.isEmpty()) {
                return;
            }
            different++;
            List<String> names =
                    differing.stream().map(pair.columns().sourceNames()::get).toList();
            columns.addAll(names);
            tell(RowDifference.Kind.DIFFERENT, Optional.of(one), Optional.of(other), names);
        }

        private void tell(
                RowDifference.Kind kind,
                Optional<RecordValues> one,
                Optional<RecordValues> other,
                List<String> differing) {
            if (told < order.wanted()) {
                told++;
                order.listener()
                        .found(new RowDifference(pair.shown(), kind, pair.key().columns(), one, other, differing));
            }
        }
    }

    @Override
    public void close() {
        store.close();
    }
}
