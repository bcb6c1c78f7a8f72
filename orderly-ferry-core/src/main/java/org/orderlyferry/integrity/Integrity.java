package org.orderlyferry.integrity;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.Digest;

/**
 * Finds records that would break a primary key, a unique constraint or a reference at a target, before any of them moves:
 * among themselves, and with what the target has. All records with a value that a key allows once are found, since nobody
 * can tell which of them is meant; a record that refers to one that is left out is left out itself. What is compared are
 * hashes of 128 bits, on the disk; of texts, those of the forms by which the target compares them. Constraints of columns of
 * which that isn't known aren't looked at: these the load itself finds out. Not safe for use by several threads.
 */
@API(status = API.Status.INTERNAL)
@NullMarked
public final class Integrity {

    /** So many times, at most, records are left out because those that they refer to were left out just before. */
    private static final int GENERATIONS = 100;

    /** So many hashes are held in memory at once, about, for each of a constraint's sides. */
    private static final long PART = 200_000;

    private static final int MOST_PARTS = 4096;

    private final HeldCompanions source;
    private final TargetPlace target;
    private final Supplier<Place> targetToRead;
    private final Map<TableName, Long> estimates = new HashMap<>();
    private List<String> patterns = List.of();
    private LoadModes modes = LoadModes.CREATE;
    private int lanes = 1;
    private boolean misfits;
    private ProgressListener listener = ProgressListener.NONE;
    private StopSignal stop = new StopSignal();

    private Integrity(Place source, TargetPlace target, Supplier<Place> targetToRead) {
        this.source = new HeldCompanions(source);
        this.target = target;
        this.targetToRead = targetToRead;
    }

    /**
     * Of a source's records at a target.
     *
     * @param targetToRead opens the target once more, where its own records count; they are read before this returns
     */
    public static Integrity of(Place source, TargetPlace target, Supplier<Place> targetToRead) {
        return new Integrity(source, target, targetToRead);
    }

    /** A source as it is, to be closed before it as one is that was looked through. */
    public static Place unlooked(Place source) {
        return new HeldCompanions(source);
    }

    /** Only these tables; {@code *} in a name stands for any characters. */
    public Integrity tables(List<String> names) {
        patterns = List.copyOf(names);
        return this;
    }

    /** What is to be done with tables that are there already. */
    public Integrity modes(LoadModes value) {
        modes = value;
        return this;
    }

    /** How many slices are read at once, at most. */
    public Integrity lanes(int value) {
        lanes = value;
        return this;
    }

    /** Hears that it goes on; nobody unless told otherwise. */
    public Integrity listener(ProgressListener value) {
        listener = value;
        return this;
    }

    /** What may end it before its end, from another thread. */
    public Integrity stopSignal(StopSignal value) {
        stop = value;
        return this;
    }

    /** Whether records of which the target can't hold a value are left out as well; a load itself finds these. */
    public Integrity misfits(boolean value) {
        misfits = value;
        return this;
    }

    /**
     * The source without those records; all others come as they are. To be closed before the source, which stays open.
     *
     * @param rejects hears of them, whenever they are read, unless whoever reads has others hear of it
     * @throws UsageException if there are more than a million different values by which they break something
     */
    public Place sound(Rejects rejects) {
        try {
            List<TableDefinition> tables = TableChoice.of(source, patterns).stream()
                    .map(source::define)
                    .toList();
            Place sound = new SoundPlace(source, search(tables), rejects);
            return misfits && !isRefused(tables)
                    ? new ScreenedPlace(sound, target.rehearse(tables, modes), rejects)
                    : sound;
        } catch (RuntimeException e) {
            source.close();
            throw e;
        }
    }

    private Violations search(List<TableDefinition> tables) {
        Violations found = new Violations();
        if (!target.keepsIntegrity() || isRefused(tables)) {
            return found;
        }
        List<Constraint> all = Demands.of(target, modes, tables);
        if (all.isEmpty()) {
            return found;
        }
        listener.stage(ProgressListener.Stage.KEYS);
        try (Loading rehearsal = target.rehearse(tables, modes)) {
            search(
                    all,
                    found,
                    new ScreenedPlace(new SoundPlace(source, found, Rejects.UNHEARD), rehearsal, Rejects.UNHEARD));
        }
        return found;
    }

    private void search(List<Constraint> all, Violations found, Place remaining) {
        Set<TableName> lost = pass(all, found, remaining);
        for (int generation = 0; !lost.isEmpty(); generation++) {
            if (generation == GENERATIONS) {
                throw new UsageException(
                        "records refer to records that refer to rejected ones, and so on for more than " + GENERATIONS
                                + " times; the last ones are of " + lost + ". Nothing was changed");
            }
            Set<TableName> parents = lost;
            lost = pass(
                    all.stream()
                            .filter(c -> c instanceof Constraint.Reference r
                                    && r.coming()
                                            .filter(p -> parents.contains(p.table()))
                                            .isPresent())
                            .toList(),
                    found,
                    remaining);
        }
    }

    /** Whether the load is refused for what is there, whatever the records are like. */
    private boolean isRefused(List<TableDefinition> tables) {
        List<TableName> there = target.tables();
        List<TableDefinition> named = target.named(tables);
        for (int i = 0; i < tables.size(); i++) {
            if (modes.of(tables.get(i).name()) == LoadMode.CREATE
                    && there.contains(named.get(i).name())) {
                return true;
            }
        }
        return false;
    }

    /** Both sides of a constraint. */
    private record Sides(Constraint constraint, KeyHashes of, List<KeyHashes> others) {}

    /**
     * Reads the records that aren't left out yet.
     *
     * @param remaining the source without those that are
     * @return of which tables some more are to be left out
     */
    private Set<TableName> pass(List<Constraint> constraints, Violations found, Place remaining) {
        if (constraints.isEmpty()) {
            return Set.of();
        }
        try (HashFile file = new HashFile()) {
            KeysSeen atSource = new KeysSeen();
            KeysSeen atTarget = new KeysSeen();
            List<Sides> all = new ArrayList<>();
            for (Constraint constraint : constraints) {
                int parts = parts(constraint);
                KeyHashes of = new KeyHashes(file, constraint.of(), parts);
                atSource.want(of);
                List<KeyHashes> others = new ArrayList<>();
                if (constraint instanceof Constraint.Reference reference) {
                    reference.coming().ifPresent(c -> others.add(wanted(atSource, file, c, parts)));
                }
                constraint.there().ifPresent(c -> others.add(wanted(atTarget, file, c, parts)));
                all.add(new Sides(constraint, of, others));
            }
            atSource.read(remaining, true, lanes, listener, stop);
            if (!atTarget.isEmpty()) {
                try (Place place = targetToRead.get()) {
                    atTarget.read(place, false, lanes, listener, stop);
                }
            }
            Set<TableName> more = new HashSet<>();
            for (Sides sides : all) {
                for (int part = 0; part < sides.of().parts(); part++) {
                    stop.check();
                    if (compare(sides, part, found)) {
                        more.add(sides.constraint().of().table());
                    }
                }
            }
            return more;
        }
    }

    private static KeyHashes wanted(KeysSeen from, HashFile file, Constraint.Columns columns, int parts) {
        KeyHashes hashes = new KeyHashes(file, columns, parts);
        from.want(hashes);
        return hashes;
    }

    private int parts(Constraint constraint) {
        long rows = source.estimate(constraint.of().table());
        if (constraint instanceof Constraint.Reference reference
                && reference.coming().isPresent()) {
            rows = Math.max(rows, source.estimate(reference.coming().get().table()));
        }
        return (int) Math.min(MOST_PARTS, Long.highestOneBit(Math.max(1, rows / PART)) * 2);
    }

    private static boolean compare(Sides sides, int part, Violations found) {
        HashCounts of = new HashCounts(sides.of().count(part));
        sides.of().each(part, of::add);
        HashCounts others = new HashCounts(
                sides.others().stream().mapToInt(o -> o.count(part)).sum());
        sides.others().forEach(o -> o.each(part, others::add));
        boolean reference = sides.constraint() instanceof Constraint.Reference;
        boolean[] any = {false};
        sides.of().each(part, (high, low) -> {
            int records = of.count(high, low);
            boolean there = others.count(high, low) > 0;
            if (reference ? !there : there || records > 1) {
                found.add(sides.constraint(), new Digest(high, low), new Violations.Value(records, there));
                any[0] = true;
            }
        });
        return any[0];
    }
}
