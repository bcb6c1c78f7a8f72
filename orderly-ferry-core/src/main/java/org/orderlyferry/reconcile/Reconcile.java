package org.orderlyferry.reconcile;

import java.math.BigDecimal;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.KeySample;
import org.orderlyferry.place.Place;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.progress.Stoppable;
import org.orderlyferry.work.RemoteEngine;
import org.orderlyferry.work.WorkSite;

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

    final Place source;
    final Place target;
    final List<String> patterns = new ArrayList<>();
    Depth depth = Depth.DIGESTS;
    final Map<TableName, Depth> depths = new LinkedHashMap<>();
    ProgressListener listener = ProgressListener.NONE;
    StopSignal stop = new StopSignal();
    int lanes = 1;
    long sliceRows = Cut.DEFAULT_ROWS;
    long rowsPerSecond;
    long bytesPerSecond;
    Optional<Place> before = Optional.empty();
    final Map<String, List<String>> keys = new LinkedHashMap<>();
    final List<ComparisonRule> rules = new ArrayList<>();
    DifferenceListener differences = difference -> {};
    long wanted;
    Optional<TableName> as = Optional.empty();
    boolean withTotals;
    boolean withServerTotals;
    Optional<Path> keep = Optional.empty();
    int share = KeySample.CLASSES;
    Optional<FarSides> far = Optional.empty();
    boolean withDefinitions;
    boolean byServers;

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

    /** How deeply one table is, by its name at the source; where it isn't as deeply as the others. */
    public Reconcile depth(TableName table, Depth value) {
        depths.put(table, value);
        return this;
    }

    /** How deeply the two tables of a pair are compared. */
    Depth depthOf(TablePair pair) {
        return pair.source() == null ? depth : depths.getOrDefault(pair.source(), depth);
    }

    /** Whether any table is compared so. */
    boolean hasDepth(Depth value) {
        return depth == value || depths.containsValue(value);
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
     * Whether servers that both take digests in the same way are asked for them, so that no record has to come: those of 64
     * bits a record that PostgreSQL has from version 14 on, with a seed that is another one each time. Values that are equal so
     * are equal; tables that aren't are read, as all are unless this is told. {@link ComparedTable#isByServers} says of which
     * tables nothing was read. Everything is read where totals, samples, a pace or tallies to be kept are asked for.
     */
    public Reconcile byServers(boolean value) {
        byServers = value;
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

    /**
     * Has both sides read by other processes; by this one unless told otherwise. Control totals, samples, and the records of
     * tables that differ, where these are looked for, are read by this one.
     *
     * @param at how the source is opened there
     * @param to how the target is
     * @param beforehand how what the target had before is; empty where nothing counts besides
     */
    @API(status = API.Status.INTERNAL)
    public Reconcile elsewhere(RemoteEngine engine, WorkSite at, WorkSite to, Optional<WorkSite> beforehand) {
        far = Optional.of(new FarSides(engine, at, to, beforehand));
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
                () -> new Comparing(this).compared());
    }
}
