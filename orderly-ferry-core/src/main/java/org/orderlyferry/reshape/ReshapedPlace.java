package org.orderlyferry.reshape;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Stream;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.KeySample;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.ColumnTally;
import org.orderlyferry.tally.Tally;

/** A place whose tables look otherwise than they are. */
final class ReshapedPlace extends ForwardingPlace {

    private final Rejects rejects;
    private final Reshaping reshaping;
    private final Map<TableName, ReshapedTable> tables = new LinkedHashMap<>();
    /** Tables that can't be so, and why: told to who wants them, since others may be all that is wanted. */
    private final Map<TableName, UsageException> unfit = new LinkedHashMap<>();

    ReshapedPlace(Place place, Reshaping reshaping, Rejects rejects) {
        super(place);
        this.rejects = rejects;
        this.reshaping = reshaping;
        if (!reshaping.tableName().isEmpty() && place.tables().size() != 1) {
            throw new UsageException(
                    place.address() + " has " + place.tables().size() + " tables; only a single one can be renamed");
        }
        for (TableName name : place.tables()) {
            ReshapedTable table;
            try {
                table = new ReshapedTable(place.define(name), reshaping);
            } catch (UsageException e) {
                unfit.put(name, e);
                continue;
            }
            if (tables.put(table.after().name(), table) != null) {
                throw new UsageException("two tables of " + place.address() + " would be called "
                        + table.after().name());
            }
        }
        if (tables.isEmpty() && !unfit.isEmpty()) {
            throw unfit.values().iterator().next();
        }
        for (String named : reshaping.namedTables()) {
            if (tables.values().stream()
                    .noneMatch(t -> t.before().name().toString().equals(named))) {
                throw new UsageException("there is no table " + named + " in " + place.address());
            }
        }
        Set<String> unused = new LinkedHashSet<>(reshaping.only());
        unused.addAll(reshaping.skipped());
        unused.addAll(reshaping.names().keySet());
        unused.addAll(reshaping.types().keySet());
        Set<String> unknown = new LinkedHashSet<>(reshaping.without());
        tables.values().forEach(t -> unknown.removeAll(t.used()));
        if (!unknown.isEmpty()) {
            throw new UsageException("no table of " + place.address() + " has an index, unique key, reference or check "
                    + Listed.of(unknown));
        }
        tables.values().forEach(t -> unused.removeAll(t.used()));
        if (!unused.isEmpty()) {
            throw new UsageException("no table of " + place.address() + " has a column " + Listed.of(unused));
        }
    }

    private ReshapedTable table(TableName name) {
        if (unfit.containsKey(name)) {
            throw unfit.get(name);
        }
        ReshapedTable table = tables.get(name);
        if (table == null) {
            throw new UsageException("there is no table " + name + " in " + address());
        }
        return table;
    }

    @Override
    public List<TableName> tables() {
        return Stream.concat(tables.keySet().stream(), unfit.keySet().stream())
                .sorted()
                .toList();
    }

    @Override
    public List<TableName> referrers(TableName name) {
        return tables();
    }

    /** References go to columns by their new names, or not at all where those are gone. */
    @Override
    public TableDefinition define(TableName name) {
        TableDefinition table = table(name).after();
        return table.toBuilder()
                .foreignKeys(table.foreignKeys().stream()
                        .filter(k -> formerly(k.target())
                                .map(t -> t.kept().keySet().containsAll(k.targetColumns()))
                                .orElse(true))
                        .map(this::redirected)
                        .toList())
                .build();
    }

    /** The table that had a name. */
    private Optional<ReshapedTable> formerly(TableName name) {
        return tables.values().stream()
                .filter(t -> t.before().name().equals(name))
                .findFirst();
    }

    private ForeignKey redirected(ForeignKey key) {
        ReshapedTable target = formerly(key.target()).orElse(null);
        return target == null
                ? key
                : new ForeignKey(
                        key.name(),
                        key.columns(),
                        target.after().name(),
                        key.targetColumns().stream()
                                .map(c -> target.kept().get(c))
                                .toList(),
                        key.onUpdate(),
                        key.onDelete(),
                        key.deferrability());
    }

    @Override
    public long count(TableName name) {
        if (table(name).conditions().isEmpty()) {
            return place().count(table(name).before().name());
        }
        long rows = 0;
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader =
                new ReshapedReader(place(), table(name), Slice.whole(table(name).after()), Rejects.UNHEARD)) {
            while (reader.read(batch)) {
                rows += batch.rows();
            }
        }
        return rows;
    }

    @Override
    public long estimate(TableName name) {
        return place().estimate(table(name).before().name());
    }

    /** Still so where every record comes whole, by whatever names. */
    @Override
    public Optional<Tally> keptTally(TableName name) {
        ReshapedTable table = table(name);
        return table.keepsValues()
                ? place().keptTally(table.before().name()).map(kept -> renamed(kept, table))
                : Optional.empty();
    }

    private static Tally renamed(Tally kept, ReshapedTable table) {
        return new Tally(
                kept.rows(),
                kept.digest(),
                kept.columns().stream()
                        .map(c -> new ColumnTally(
                                table.kept().getOrDefault(c.name(), c.name()), c.form(), c.nulls(), c.digest()))
                        .toList());
    }

    /** Numbers are given anew each time that records are read. */
    @Override
    public Optional<String> state() {
        return reshaping.number().isEmpty() ? place().state().map(state -> state + " " + reshaping) : Optional.empty();
    }

    @Override
    public OptionalLong bytes(TableName name) {
        return place().bytes(table(name).before().name());
    }

    @Override
    public OptionalLong quickBytes(TableName name) {
        return place().quickBytes(table(name).before().name());
    }

    @Override
    public Optional<String> mark(TableName name, boolean standing) {
        return place().mark(table(name).before().name(), standing);
    }

    @Override
    public OptionalLong unwritten(TableName name, String mark) {
        return place().unwritten(table(name).before().name(), mark);
    }

    @Override
    public List<Slice> cut(TableDefinition definition, long rows, Cut cut) {
        ReshapedTable table = table(definition.name());
        if (table.isNumbered()) {
            // whoever reads a part doesn't know how many come before
            return List.of(Slice.whole(definition));
        }
        Map<TableName, String> columns = new LinkedHashMap<>(cut.columns());
        String column = columns.remove(definition.name());
        if (column != null) {
            columns.put(table.before().name(), table.oldName(column));
        }
        return place().cut(table.before(), rows, new Cut(cut.rows(), columns, cut.standing())).stream()
                .map(s ->
                        new Slice(definition.name(), definition.columnNames(), table.afterwards(s.range()), s.piece()))
                .toList();
    }

    @Override
    public boolean rangesByValue(TableName name, List<String> columns) {
        ReshapedTable table = table(name);
        return table.keepsOrder(columns)
                && place().rangesByValue(
                                table.before().name(),
                                columns.stream().map(table::formerly).toList());
    }

    @Override
    public List<LeftBehind> leftBehind() {
        List<LeftBehind> all = new ArrayList<>(place().leftBehind());
        tables.values().forEach(t -> all.addAll(t.leftBehind()));
        return all;
    }

    @Override
    public List<LeftBehind> leftBehind(Collection<TableName> names) {
        List<LeftBehind> all = new ArrayList<>(place().leftBehind(names.stream()
                .map(n -> tables.containsKey(n) ? tables.get(n).before().name() : n)
                .toList()));
        names.stream()
                .filter(tables::containsKey)
                .forEach(n -> all.addAll(tables.get(n).leftBehind()));
        return all;
    }

    @Override
    public void check(TableDefinition definition) {
        place().check(table(definition.name()).before());
    }

    @Override
    public RecordReader read(Slice slice) {
        return read(slice, rejects);
    }

    @Override
    public RecordReader read(Slice slice, Rejects hears) {
        ReshapedTable table = table(slice.table());
        return table.isUntouched() ? place().read(slice, hears) : new ReshapedReader(place(), table, slice, hears);
    }

    /** Its records aren't those of the place that it wraps. */
    @Override
    public RecordReader readRestricted(Slice slice, Rejects rejects, Restriction restriction) {
        return read(slice, rejects);
    }

    /** Likewise. */
    @Override
    public RecordReader readSome(Slice slice, Rejects hears, KeySample sample) {
        return read(slice, hears);
    }

    /** More ways into the place, each with the same changes; where records are numbered, one reads them all. */
    @Override
    public Companions companions(int count) {
        if (!reshaping.number().isEmpty()) {
            return Companions.NONE;
        }
        Companions bare = place().companions(count);
        return new Companions(
                bare.places().stream()
                        .map(p -> (Place) new ReshapedPlace(p, reshaping, rejects))
                        .toList(),
                bare.findings());
    }

    @Override
    public Rejects rejects() {
        return rejects;
    }
}
