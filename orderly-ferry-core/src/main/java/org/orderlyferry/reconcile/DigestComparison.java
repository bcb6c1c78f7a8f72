package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.function.IntFunction;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.progress.Crew;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.tally.ColumnTally;
import org.orderlyferry.tally.Tally;
import org.orderlyferry.work.TallyWork;

/**
 * Compares tables by the digests of all their values, both sides at once, and has records and totals looked at in the same
 * pass.
 */
final class DigestComparison {

    private final Place source;
    private final Place target;
    private final Optional<Place> before;
    private final How how;

    /**
     * How it is done.
     *
     * @param lanes how many slices are read at once on each side, at most
     * @param sliceRows how many records a slice has, about
     * @param rowsPerSecond how many records are read a second on each side, at most; 0 for any number
     * @param bytesPerSecond how many bytes of values, likewise
     * @param totals whether control totals are taken
     * @param serverTotals whether the places' own SQL is asked for them too
     * @param keep where tallies are kept until all is done
     * @param far who reads both sides instead of this process
     * @param seed of the digests that the places' servers take themselves; empty where values are read
     * @param told hears how it goes on
     * @param columns which columns of a pair are compared
     */
    record How(
            int lanes,
            long sliceRows,
            long rowsPerSecond,
            long bytesPerSecond,
            boolean totals,
            boolean serverTotals,
            Optional<KeptTallies> keep,
            Optional<FarSides> far,
            OptionalLong seed,
            ProgressListener told,
            StopSignal stop,
            Function<TablePair, ColumnPairs> columns) {}

    DigestComparison(Place source, Place target, Optional<Place> before, How how) {
        this.source = source;
        this.target = target;
        this.before = before;
        this.how = how;
    }

    /** Both sides of all pairs at once: each has ways of its own to read by, and when one fails the other stops. */
    Map<TablePair, ComparedTable> compare(List<TablePair> all, List<Finding> findings, Optional<RowComparison> rows) {
        List<TablePair> pairs = all.stream()
                .filter(p -> p.source() != null && p.target() != null)
                // where no column has a partner, there is nothing but records to be counted
                .filter(p -> !how.columns().apply(p).sourceNames().isEmpty())
                .toList();
        List<ColumnPairs> columns = pairs.stream().map(how.columns()).toList();
        List<TallyWork.Wanted> atSource = new ArrayList<>();
        List<TallyWork.Wanted> atTarget = new ArrayList<>();
        Optional<Totals> totals = how.totals() ? Optional.of(new Totals()) : Optional.empty();
        for (int i = 0; i < pairs.size(); i++) {
            ColumnPairs paired = columns.get(i);
            TablePair pair = pairs.get(i);
            atSource.add(new TallyWork.Wanted(pair.source(), paired.sourceNames(), paired.forms()));
            atTarget.add(new TallyWork.Wanted(pair.target(), paired.targetNames(), paired.forms()));
            rows.ifPresent(r -> r.expect(pair.source(), paired, pair.target()));
            totals.ifPresent(t -> t.expect(source.define(pair.source()), paired, target.define(pair.target())));
        }
        totals.filter(t -> how.serverTotals()).ifPresent(t -> t.askServers(source, target));
        Crew crew = new Crew(how.stop());
        List<TallyWork> sides = new ArrayList<>();
        sides.add(new TallyWork(source, atSource, how.told(), crew));
        sides.add(new TallyWork(target, atTarget, how.told(), crew));
        totals.ifPresent(t -> sides.get(0).witnesses(t.source()));
        totals.ifPresent(t -> sides.get(1).witnesses(t.target()));
        rows.ifPresent(r -> sides.get(0).witnesses(r.source()));
        rows.ifPresent(r -> sides.get(1).witnesses(r.target()));
        List<TallyWork.Wanted> beforehand = new ArrayList<>();
        before.ifPresent(place -> {
            Set<TableName> had = new HashSet<>(place.tables());
            atTarget.stream().filter(w -> had.contains(w.table())).forEach(beforehand::add);
            TallyWork work = new TallyWork(place, beforehand, how.told(), crew);
            rows.flatMap(RowComparison::before).ifPresent(work::witnesses);
            sides.add(work);
        });
        sides.forEach(
                side -> side.pace(how.rowsPerSecond(), how.bytesPerSecond()).sliceRows(how.sliceRows()));
        Map<TallyWork, List<Tally>> tallies = new ConcurrentHashMap<>();
        how.keep().ifPresent(kept -> kept.of(sides));
        how.far().ifPresent(far -> far.read(sides));
        how.seed().ifPresent(seed -> sides.forEach(side -> side.byServer(seed)));
        crew.work(sides, sides, (hand, side) -> tallies.put(side, side.run(how.lanes())));
        how.keep().ifPresent(kept -> findings.addAll(kept.findings()));
        sides.forEach(side -> findings.addAll(side.findings()));
        IntFunction<List<Tally>> side = number -> Objects.requireNonNull(tallies.get(sides.get(number)));
        Map<TablePair, ComparedTable> compared = new LinkedHashMap<>();
        for (int i = 0; i < pairs.size(); i++) {
            Tally at = side.apply(0).get(i);
            int had = beforehand.indexOf(atTarget.get(i));
            if (had >= 0) {
                at = sum(at, side.apply(2).get(had));
            }
            Tally to = side.apply(1).get(i);
            if (had < 0) {
                trust(source, pairs.get(i).source(), at, findings);
            }
            trust(target, pairs.get(i).target(), to, findings);
            TablePair pair = pairs.get(i);
            ColumnPairs paired = columns.get(i);
            ComparedTable bare = digests(pair, paired, at, to);
            ComparedTable table = totals.map(t -> bare.withTotals(t.of(pair.source(), paired, pair.target())))
                    .orElse(bare);
            compared.put(
                    pairs.get(i),
                    rows.map(r -> r.look(table, had >= 0, findings)).orElse(table));
        }
        totals.ifPresent(t -> findings.addAll(t.findings()));
        return compared;
    }

    /** Two tallies of columns that are called otherwise, in the same order and forms. */
    private static Tally sum(Tally one, Tally other) {
        List<ColumnTally> renamed = new ArrayList<>();
        for (int i = 0; i < one.columns().size(); i++) {
            ColumnTally column = other.columns().get(i);
            renamed.add(new ColumnTally(one.columns().get(i).name(), column.form(), column.nulls(), column.digest()));
        }
        return one.plus(new Tally(other.rows(), other.digest(), renamed));
    }

    private static ComparedTable digests(TablePair pair, ColumnPairs columns, Tally at, Tally to) {
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
                to.digest().toString(),
                Optional.empty(),
                List.of(),
                List.of());
    }

    /** A set's own tally is never trusted, and told where it no longer holds. */
    private static void trust(Place place, TableName table, Tally found, List<Finding> findings) {
        place.keptTally(table)
                .filter(kept -> kept.isComparableTo(found) && !kept.equals(found))
                .ifPresent(kept -> findings.add(Finding.of(
                        FindingCode.SET_CHANGED,
                        table,
                        place.address() + " was changed after it was made: it was tallied with " + kept.rows()
                                + " records, digest " + kept.digest())));
    }
}
