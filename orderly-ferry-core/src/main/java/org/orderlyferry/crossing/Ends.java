package org.orderlyferry.crossing;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.integrity.Integrity;
import org.orderlyferry.io.Closing;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.reshape.Reshaping;
import org.orderlyferry.work.PacedPlace;

/** Opens both ends of a crossing, the source with its tables as the crossing wants them. Immutable. */
final class Ends {

    private final Crossing crossing;
    private final Secrets secrets;

    Ends(Crossing crossing, Secrets secrets) {
        this.crossing = crossing;
        this.secrets = secrets;
    }

    /** The names that the crossing's tables have at the target. */
    List<TableName> tables() {
        return crossing.tables().stream().map(CrossingTable::to).toList();
    }

    /** The crossing's tables at the target, to be read only. */
    Place targetToRead() {
        return targetToRead(Optional.empty());
    }

    /** The same, as they show themselves to another process that has given this moment. */
    Place targetToRead(Optional<String> moment) {
        return new OnlyTables(
                Places.open(
                        PlaceAddress.of(crossing.to()),
                        OpenOptions.builder().secrets(secrets).moment(moment).build()),
                tables());
    }

    /** The target, to be written. */
    TargetPlace target() {
        return Places.openTarget(
                PlaceAddress.of(crossing.to()),
                OpenOptions.builder()
                        .secrets(secrets)
                        .makeMissing(crossing.makeMissing())
                        .build());
    }

    /**
     * The source, with the crossing's tables and columns by their names at the target.
     *
     * @throws UsageException if the source's tables aren't those that the crossing tells of
     */
    Place source() {
        return source(Rejects.STOP);
    }

    /** The same, in which records that can't be taken are heard of. */
    Place source(Rejects rejects) {
        return source(rejects, Optional.empty());
    }

    /**
     * A source of these ends without the records that the target can't hold, or that would break its keys, references and
     * checks; as it is where none may be rejected. To be closed before the source, which stays open.
     *
     * @param modes what is done with tables that are there
     * @param rejects hears of those records
     */
    Place sound(Place source, LoadModes modes, Rejects rejects, ProgressListener listener, StopSignal stop) {
        if (rejects == Rejects.STOP) {
            return Integrity.unlooked(source);
        }
        TargetPlace target = target();
        try {
            Place sound = integrity(source, target, modes, listener, stop)
                    .misfits(isAsItWillBe(source, target, modes))
                    .sound(rejects);
            if (target.mostLanes() == 1) {
                // nobody else could write there meanwhile; and it has been asked all that there is to ask
                target.close();
                return sound;
            }
            return new WithTarget(sound, target);
        } catch (RuntimeException e) {
            Closing.after(e, target);
            throw e;
        }
    }

    /** What isn't held to be so now may be so once the crossing's own statements have run. */
    @SuppressWarnings("try") // whether it can be rehearsed is all that is asked
    private boolean isAsItWillBe(Place source, TargetPlace target, LoadModes modes) {
        if (crossing.before().isEmpty()) {
            return true;
        }
        List<TableDefinition> tables =
                source.tables().stream().map(source::define).toList();
        try (Loading rehearsal = target.rehearse(tables, modes)) {
            return true;
        } catch (UsageException e) {
            return false;
        }
    }

    /** A place whose records a target is asked about. */
    private static final class WithTarget extends ForwardingPlace {

        private final TargetPlace target;

        WithTarget(Place place, TargetPlace target) {
            super(place);
            this.target = target;
        }

        @Override
        @SuppressWarnings("try") // closed behind the place, and not used else
        public void close() {
            try (TargetPlace closed = target) {
                super.close();
            }
        }
    }

    /** The same, where the target is open already, and its load finds itself what it can't hold. */
    Place sound(
            Place source,
            TargetPlace target,
            LoadModes modes,
            Rejects rejects,
            ProgressListener listener,
            StopSignal stop) {
        return integrity(source, target, modes, listener, stop).sound(rejects);
    }

    private Integrity integrity(
            Place source, TargetPlace target, LoadModes modes, ProgressListener listener, StopSignal stop) {
        return Integrity.of(source, target, this::targetToRead)
                .modes(modes)
                .lanes(crossing.lanes())
                .listener(listener)
                .stopSignal(stop);
    }

    /** The same, as it shows itself to another process that has given this moment. */
    Place source(Rejects rejects, Optional<String> moment) {
        Place bare = PacedPlace.of(
                Places.open(
                        PlaceAddress.of(crossing.from()),
                        OpenOptions.builder()
                                .secrets(secrets)
                                .outOfRange(crossing.outOfRange())
                                .rejects(rejects)
                                .moment(moment)
                                .build()),
                crossing.rowsPerSecond(),
                crossing.bytesPerSecond());
        try {
            // of thousands of tables there may be one that is carried
            Place carried = new OnlyTables(
                    bare, crossing.tables().stream().map(CrossingTable::name).toList());
            return new OnlyTables(reshaping(bare).over(carried, rejects), tables());
        } catch (RuntimeException e) {
            bare.close();
            throw e;
        }
    }

    /**
     * What speaks against finding changed records by a column. Its values are asked for from one on, at the source itself: so
     * they must be in the same order there as here, and of the type that they have there.
     */
    private static Optional<String> growing(CrossingTable table, TableDefinition definition) {
        Optional<CrossingColumn> carried = table.columns().stream()
                .filter(c -> c.name().equals(table.growsBy()))
                .findFirst();
        if (carried.isEmpty()) {
            return Optional.of("table " + table.name() + " grows by its column " + table.growsBy()
                    + ", which isn't carried"
                    + Nearest.of(table.growsBy(), definition.columnNames())
                            .map(n -> "; was " + n + " meant?")
                            .orElse(""));
        }
        LogicalType is = definition.column(table.growsBy()).orElseThrow().type();
        LogicalType becomes = LogicalType.parse(carried.get().type());
        boolean ordered = is.name().isExactNumber()
                || is.name() == TypeName.DATE
                || is.name() == TypeName.TIMESTAMP
                || is.name() == TypeName.TIMESTAMP_WITH_TIME_ZONE;
        if (!ordered) {
            return Optional.of("table " + table.name() + " grows by its column " + table.growsBy() + ", which is "
                    + is + ": only whole and decimal numbers, dates and timestamps are in one order everywhere; without"
                    + " grows-by, changed records are found by comparing");
        }
        return is.name() == becomes.name()
                        || is.name().isExactNumber() && becomes.name().isExactNumber()
                ? Optional.empty()
                : Optional.of("table " + table.name() + " grows by its column " + table.growsBy() + ", which is " + is
                        + " and becomes " + becomes + " on the way; without grows-by, changed records are found by"
                        + " comparing");
    }

    private Reshaping reshaping(Place source) {
        Set<TableName> there = new HashSet<>(source.tables());
        List<String> wrong = new ArrayList<>();
        List<String> unfit = new ArrayList<>();
        Reshaping reshaping = new Reshaping();
        for (CrossingTable table : crossing.tables()) {
            TableName name = table.name();
            if (!there.contains(name)) {
                wrong.add("there is no table " + table.name());
                continue;
            }
            wrong.addAll(compare(table, source.define(name)));
            if (wrong.isEmpty()) {
                if (!table.growsBy().isEmpty()) {
                    growing(table, source.define(name)).ifPresent(unfit::add);
                }
                reshape(reshaping, table, source.define(name));
            }
        }
        if (!wrong.isEmpty()) {
            throw new UsageException(source.address() + " isn't as the crossing tells: " + Listed.of(wrong, "; ")
                    + ". ferry draft writes down what is new");
        }
        if (!unfit.isEmpty()) {
            throw new UsageException(Listed.of(unfit, "; "));
        }
        return reshaping;
    }

    /** What the source and the crossing say otherwise of a table's columns. */
    static List<String> compare(CrossingTable table, TableDefinition definition) {
        Set<String> decided = new LinkedHashSet<>(table.skip());
        table.columns().forEach(c -> decided.add(c.name()));
        List<String> wrong = new ArrayList<>();
        for (String column : definition.columnNames()) {
            if (!decided.remove(column)) {
                wrong.add("table " + table.name() + " has a column " + column + ", of which the crossing says nothing");
            }
        }
        decided.forEach(c -> wrong.add("table " + table.name() + " has no column " + c
                + Nearest.of(c, definition.columnNames())
                        .map(n -> "; was " + n + " meant?")
                        .orElse("")));
        return wrong;
    }

    private static void reshape(Reshaping reshaping, CrossingTable table, TableDefinition definition) {
        String name = Reshaping.literally(definition.name().toString());
        List<String> carried =
                table.columns().stream().map(CrossingColumn::name).toList();
        if (!carried.equals(definition.columnNames())) {
            reshaping.only(carried.stream()
                    .map(c -> name + "." + Reshaping.literally(c))
                    .toList());
        }
        for (CrossingColumn column : table.columns()) {
            ColumnDefinition is = definition.column(column.name()).orElseThrow();
            if (!column.to().equals(column.name())) {
                reshaping.rename(name + "." + Reshaping.literally(column.name()), column.to());
            }
            if (!column.type().equals(is.type().toString())) {
                reshaping.type(name + "." + Reshaping.literally(column.name()), column.type());
            }
        }
        if (!table.where().isEmpty()) {
            reshaping.where(definition.name().toString(), table.where());
        }
        if (!table.to().equals(definition.name())) {
            reshaping.table(definition.name().toString(), table.to());
        }
    }
}
