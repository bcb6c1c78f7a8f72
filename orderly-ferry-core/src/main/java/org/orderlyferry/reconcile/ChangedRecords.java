package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.ConcurrentHashMap;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.progress.Stoppable;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.Tally;

/**
 * A source of which only those records come that a target doesn't have as they are: key by key, found by digests of whole
 * records. Where both sides order a table's key alike, ranges of it are compared one after another; elsewhere keys are parted
 * by their hashes, so that never more than some hundred thousand are held at once. Neither side is closed with it.
 */
@API(status = API.Status.INTERNAL)
public final class ChangedRecords extends ForwardingPlace {

    private final Place target;
    private final MissingKeys missing;
    private final ProgressListener told;
    private final Map<TableName, ChangeCount> counts = new LinkedHashMap<>();
    private final Map<TableName, ComparedPair> pairs = new HashMap<>();
    private final Map<TableName, Long> estimates = new ConcurrentHashMap<>();
    private OptionalLong seed = OptionalLong.empty();

    /**
     * Over a source.
     *
     * @param target what the source's records are held against, under the names that a load gives them
     * @param missing hears of records that the source doesn't have
     */
    public ChangedRecords(Place source, Place target, MissingKeys missing) {
        this(source, target, missing, ProgressListener.NONE);
    }

    /**
     * The same.
     *
     * @param told hears of records that the target has as they are, from several threads
     */
    public ChangedRecords(Place source, Place target, MissingKeys missing, ProgressListener told) {
        super(source);
        this.told = told;
        this.target = target;
        this.missing = missing;
    }

    /**
     * Whether servers that both take digests in the same way are asked for those of records, so that only records that have
     * changed come; where none may be rejected, since what can't be read can't be told so. To be told before anything is read.
     *
     * @param value the seed of digests
     */
    public ChangedRecords byServers(long value) {
        seed = OptionalLong.of(value);
        return this;
    }

    /** The seed of the digests that what was found of a table is told by; empty where these are of values. */
    public synchronized OptionalLong seed(TableName table) {
        return pairs.containsKey(table) ? pairs.get(table).seed() : OptionalLong.empty();
    }

    /** What was found of each table that was read to its end. */
    public synchronized Map<TableName, ChangeCount> counts() {
        return Map.copyOf(counts);
    }

    private synchronized void found(TableName table, ChangeCount count) {
        counts.merge(table, count, ChangeCount::plus);
    }

    /** The tables of both sides that belong together, by their columns. */
    private ComparedPair pair(TableDefinition source) {
        TableDefinition named = target.named(List.of(source)).get(0);
        List<TablePair> pairs = TablePair.of(List.of(source.name()), List.of(named), target.tables(), false);
        TableName partner = pairs.get(0).target();
        if (partner == null) {
            throw new UsageException("the target has no table " + named.name()
                    + "; what has changed is found in tables that were moved before");
        }
        TableDefinition there = target.define(partner, named.columns());
        ColumnPairs columns = ColumnPairs.of(source, named, there);
        if (!columns.onlyAtSource().isEmpty()) {
            throw new UsageException(
                    "table " + partner + " of the target has no column " + Listed.of(columns.onlyAtSource()));
        }
        Key key = source.primaryKey()
                .orElseThrow(() -> new UsageException(
                        "table " + source.name() + " has no primary key, by which changed records could be found"));
        boolean ranges = place().rangesByValue(source.name(), key.columns())
                && target.rangesByValue(there.name(), columns.atTarget(key.columns()));
        return new ComparedPair(
                source,
                there,
                columns,
                key.columns(),
                ranges,
                seed.isPresent() && areAlike(source, there, columns) ? seed : OptionalLong.empty(),
                new EqualRanges());
    }

    private boolean areAlike(TableDefinition source, TableDefinition there, ColumnPairs columns) {
        if (rejects() != Rejects.STOP) {
            return false;
        }
        Optional<String> form = place().ownDigests().flatMap(d -> d.form(source.name(), columns.sourceNames()));
        return form.isPresent()
                && form.equals(target.ownDigests().flatMap(d -> d.form(there.name(), columns.targetNames())));
    }

    @Override
    public Optional<Tally> keptTally(TableName table) {
        return Optional.empty();
    }

    @Override
    public Optional<String> state() {
        return Optional.empty();
    }

    @Override
    public long estimate(TableName table) {
        return estimates.computeIfAbsent(table, place()::estimate);
    }

    @Override
    public List<Slice> cut(TableDefinition table, long rows, Cut cut) {
        ComparedPair pair = pairs.computeIfAbsent(table.name(), t -> pair(table));
        List<Slice> slices = pair.isOrderedAlike() ? place().cut(table, rows, cut) : List.of();
        // pieces of files hold records of all keys, and have nothing at the target to be compared with
        boolean byKeys =
                !slices.isEmpty() && slices.stream().noneMatch(s -> s.range().isAll());
        return byKeys ? slices : List.of(Slice.whole(table));
    }

    /** As many as both sides offer, each of a way into the source and one into the target. */
    @Override
    public Companions companions(int count) {
        Companions sources = place().companions(count);
        Companions targets = target.companions(sources.places().size());
        int both = Math.min(sources.places().size(), targets.places().size());
        sources.places().subList(both, sources.places().size()).forEach(Place::close);
        targets.places().subList(both, targets.places().size()).forEach(Place::close);
        List<Place> pairs = new ArrayList<>();
        for (int i = 0; i < both; i++) {
            pairs.add(new Companion(sources.places().get(i), targets.places().get(i)));
        }
        List<Finding> findings = new ArrayList<>(sources.findings());
        targets.findings().stream().filter(f -> !findings.contains(f)).forEach(findings::add);
        return new Companions(pairs, findings);
    }

    /** Another way in, which counts with the first one and owns both of its ends. */
    private final class Companion extends ForwardingPlace {

        private final Place itsTarget;

        Companion(Place itsSource, Place itsTarget) {
            super(itsSource);
            this.itsTarget = itsTarget;
        }

        @Override
        public RecordReader read(Slice slice) {
            return read(slice, rejects());
        }

        @Override
        public RecordReader read(Slice slice, Rejects rejects) {
            return reader(place(), itsTarget, slice, rejects);
        }

        /** Its records aren't those of the place that it wraps. */
        @Override
        public RecordReader readRestricted(Slice slice, Rejects rejects, Restriction restriction) {
            return read(slice, rejects);
        }

        @Override
        public void cancel() {
            place().cancel();
            itsTarget.cancel();
        }

        @Override
        public void close() {
            try {
                itsTarget.close();
            } finally {
                super.close();
            }
        }
    }

    @Override
    public RecordReader read(Slice slice) {
        return read(slice, rejects());
    }

    @Override
    public RecordReader read(Slice slice, Rejects rejects) {
        return reader(place(), target, slice, rejects);
    }

    /** Its records aren't those of the place that it wraps. */
    @Override
    public RecordReader readRestricted(Slice slice, Rejects rejects, Restriction restriction) {
        return read(slice, rejects);
    }

    private synchronized RecordReader reader(Place source, Place other, Slice slice, Rejects rejects) {
        TableDefinition table = source.define(slice.table());
        ComparedPair pair = pairs.computeIfAbsent(slice.table(), t -> pair(table));
        return new ChangedReader(
                source,
                other,
                slice,
                pair,
                missing == MissingKeys.UNHEARD ? missing : this::tellMissing,
                rejects,
                slice.range().isAll() ? estimates.computeIfAbsent(slice.table(), source::estimate) : 0,
                rows -> told.looked(slice.table(), rows),
                count -> found(slice.table(), count));
    }

    /**
     * Reads a table to its end, to find out what differs and move none of it.
     *
     * @param columns those that are compared; the key's are among them
     * @param rows how many records are held against each other at once, about
     * @return how many records the target doesn't have as they are
     */
    public long look(TableName table, List<String> columns, long rows, StopSignal stop) {
        return Stoppable.run(
                stop,
                () -> {
                    place().cancel();
                    target.cancel();
                },
                () -> {
                    long found = 0;
                    RecordBatch batch = new RecordBatch();
                    for (Slice slice : cut(define(table), estimate(table), new Cut(rows, Map.of()))) {
                        Slice some = new Slice(table, columns, slice.range(), slice.piece());
                        try (RecordReader reader = read(some, Rejects.UNHEARD)) {
                            while (reader.read(batch)) {
                                stop.check();
                                found += batch.rows();
                            }
                        }
                    }
                    return found;
                });
    }

    private synchronized void tellMissing(TableDefinition key, RecordBatch batch) {
        missing.missing(key, batch);
    }

    @Override
    public void close() {
        // both ends are their owners'
    }

    /**
     * Two tables that are compared.
     *
     * @param source the source's
     * @param target the target's
     * @param columns which columns belong together
     * @param key the source's key
     * @param rangesByValue whether ranges of the key mean to both sides what its values say
     * @param seed of the digests that both servers take; empty where they can't, or aren't to
     * @param ranges how its ranges have turned out so far
     */
    record ComparedPair(
            TableDefinition source,
            TableDefinition target,
            ColumnPairs columns,
            List<String> key,
            boolean rangesByValue,
            OptionalLong seed,
            EqualRanges ranges) {

        /** A column of the source by its name at the target. */
        String atTarget(String column) {
            return columns.targetNames().get(columns.sourceNames().indexOf(column));
        }

        /** Whether ranges of the key hold the same records on both sides, whatever their rules for texts are. */
        boolean isOrderedAlike() {
            return rangesByValue
                    && key.stream().allMatch(k -> {
                        Optional<ColumnDefinition> one = source.column(k);
                        Optional<ColumnDefinition> other = target.column(atTarget(k));
                        return one.isPresent()
                                && other.isPresent()
                                && kind(one.get().type().name()) != 0
                                && kind(one.get().type().name())
                                        == kind(other.get().type().name());
                    });
        }

        /** Types that no system keeps as texts of which it can't be said how they are ordered. */
        private static int kind(TypeName type) {
            return switch (type) {
                case SMALLINT, INTEGER, BIGINT -> 1;
                case DATE -> 2;
                default -> 0;
            };
        }
    }
}
