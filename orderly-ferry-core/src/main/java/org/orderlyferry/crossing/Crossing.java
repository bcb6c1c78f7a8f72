package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.io.Compression;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.ComparisonRule;
import org.orderlyferry.reconcile.Depth;

/**
 * One migration: what goes from where to where, and how. It is {@linkplain #read read} from a file, {@linkplain Draft
 * drafted}, or built here. Immutable.
 *
 * <pre>{@code
 * Crossing crossing = Crossing.read(Path.of("crossing.yaml"));
 * if (crossing.check().isAllowed()) {
 *     RunResult result = crossing.run(RunListener.SILENT);
 * }
 * }</pre>
 */
@NullMarked
public final class Crossing {

    private final String from;
    private final String to;
    private final Path keep;
    private final LoadMode onto;
    private final SourceMoment sourceMoment;
    private final int lanes;
    private final long sliceRows;
    private final long sliceBytes;
    private final long rowsPerSecond;
    private final long bytesPerSecond;
    private final Compression compress;
    private final OutOfRange outOfRange;
    private final long rejectsAllowed;
    private final boolean makeMissing;
    private final Depth proof;
    private final List<ComparisonRule> rules;
    private final boolean backup;
    private final boolean keepReplaced;
    private final boolean followDeletes;
    private final Optional<Arrivals> arrivals;
    private final List<TargetStatement> before;
    private final List<TargetStatement> after;
    private final List<CrossingTable> tables;

    private Crossing(Builder b) {
        this.from = Objects.requireNonNull(b.from, "from");
        this.to = Objects.requireNonNull(b.to, "to");
        this.keep = b.keep;
        this.onto = b.onto;
        this.sourceMoment = b.sourceMoment;
        this.lanes = b.lanes;
        this.sliceRows = b.sliceRows;
        this.sliceBytes = b.sliceBytes;
        this.rowsPerSecond = b.rowsPerSecond;
        this.bytesPerSecond = b.bytesPerSecond;
        this.compress = b.compress;
        this.outOfRange = b.outOfRange;
        this.rejectsAllowed = b.rejectsAllowed;
        this.makeMissing = b.makeMissing;
        this.proof = b.proof;
        this.rules = List.copyOf(b.rules);
        this.backup = b.backup;
        this.keepReplaced = b.keepReplaced;
        this.followDeletes = b.followDeletes;
        this.arrivals = b.arrivals;
        this.before = List.copyOf(b.before);
        this.after = List.copyOf(b.after);
        this.tables = List.copyOf(b.tables);
        if (tables.isEmpty()) {
            throw new UsageException("a crossing has at least one table");
        }
    }

    /**
     * Reads a crossing from a file; its relative paths begin at the file's folder.
     *
     * @throws org.orderlyferry.problem.MalformedFileException with line, column and, for a name that isn't known, the nearest
     *     one that is
     */
    public static Crossing read(Path file) {
        return CrossingReader.read(file);
    }

    /** Begins a crossing between two addresses, in which secrets are left open, as in {@code ${env:NAME}}. */
    public static Builder between(String from, String to) {
        return new Builder(from, to);
    }

    /**
     * Writes the crossing to a file, from which it can be {@linkplain #read read} again.
     *
     * @throws org.orderlyferry.problem.PlaceException if it can't be written
     */
    public void write(Path file) {
        Draft.save(file, CrossingWriter.write(this, CrossingWriter.Remarks.none()));
    }

    /** Says what a run would do; see {@link Check} for more to be told. */
    public CheckResult check() {
        return Check.of(this).check();
    }

    /** Does it, or goes on with it; see {@link Run} for more to be told. */
    public RunResult run(RunListener listener) {
        return Run.of(this).listener(listener).run();
    }

    /** Puts the target back as it was before the last run, without what was caught up since; see {@link Undo} for more to be told. */
    public UndoResult undo(RunListener listener) {
        return Undo.of(this).listener(listener).undo();
    }

    /** Moves what has changed at the source since the last run; see {@link CatchUp} for more to be told. */
    public RunResult catchUp(RunListener listener) {
        return CatchUp.of(this).listener(listener).run();
    }

    /** The source's address. */
    public String from() {
        return from;
    }

    /** The target's address. */
    public String to() {
        return to;
    }

    /** The folder in which runs are kept. */
    public Path keep() {
        return keep;
    }

    /** What is done with tables that are at the target already, but for those that say otherwise. */
    public LoadMode onto() {
        return onto;
    }

    /** The same, table by table, by their names at the target. */
    public LoadModes modes() {
        return new Choices(this).modes();
    }

    /** What may be taken for granted of the moments that tables are read at. */
    public SourceMoment sourceMoment() {
        return sourceMoment;
    }

    /** How many slices move at once, at most. */
    public int lanes() {
        return lanes;
    }

    /** How many records a slice has, about. */
    public long sliceRows() {
        return sliceRows;
    }

    /** How many bytes of a table it has, about, where that is fewer records. */
    public long sliceBytes() {
        return sliceBytes;
    }

    /** How many records are read at the source, or move, a second, at most; 0 for any number. */
    public long rowsPerSecond() {
        return rowsPerSecond;
    }

    /** How many bytes of values are read at the source, or move, a second, at most; 0 for any number. */
    public long bytesPerSecond() {
        return bytesPerSecond;
    }

    /** How the set's files are compressed. */
    public Compression compress() {
        return compress;
    }

    /** What is done with values that no other system could hold. */
    public OutOfRange outOfRange() {
        return outOfRange;
    }

    /** How many records of the source may be left out because they can't be taken, each kept with its reason. */
    public long rejectsAllowed() {
        return rejectsAllowed;
    }

    /** Whether the target's database and schemas are made where they aren't there. */
    public boolean makeMissing() {
        return makeMissing;
    }

    /** How deeply the target is compared in the end. */
    public Depth proof() {
        return proof;
    }

    /** What doesn't count when the target is compared in the end; none unless the proof is by rows. */
    public List<ComparisonRule> rules() {
        return rules;
    }

    /** Whether tables of the target are exported before they are changed, so that the run can be undone. */
    public boolean backup() {
        return backup;
    }

    /**
     * Whether tables that are replaced are kept in the target, beside the new ones, instead of exported before: undoing is a matter of a
     * moment then, and takes their room there until the way back is given up.
     */
    public boolean keepReplaced() {
        return keepReplaced;
    }

    /** Whether a catch-up takes records out of the target that are gone at the source. */
    public boolean followDeletes() {
        return followDeletes;
    }

    /** The files that arrive, where it is a crossing of such. */
    public Optional<Arrivals> arrivals() {
        return arrivals;
    }

    /** Statements at the target before the load. */
    public List<TargetStatement> before() {
        return before;
    }

    /** Statements at the target after the load. */
    public List<TargetStatement> after() {
        return after;
    }

    /** The tables that cross, in the order in which they stand in the file. */
    public List<CrossingTable> tables() {
        return tables;
    }

    /** The same, to be changed. */
    public Builder toBuilder() {
        Builder b = new Builder(from, to);
        b.keep = keep;
        b.onto = onto;
        b.sourceMoment = sourceMoment;
        b.lanes = lanes;
        b.sliceRows = sliceRows;
        b.sliceBytes = sliceBytes;
        b.rowsPerSecond = rowsPerSecond;
        b.bytesPerSecond = bytesPerSecond;
        b.compress = compress;
        b.outOfRange = outOfRange;
        b.rejectsAllowed = rejectsAllowed;
        b.makeMissing = makeMissing;
        b.proof = proof;
        b.rules = rules;
        b.backup = backup;
        b.keepReplaced = keepReplaced;
        b.followDeletes = followDeletes;
        b.arrivals = arrivals;
        b.before = before;
        b.after = after;
        b.tables = tables;
        return b;
    }

    /** Builds crossings. */
    public static final class Builder {
        private String from;
        private final String to;
        private Path keep = Path.of("runs");
        private LoadMode onto = LoadMode.CREATE;
        private SourceMoment sourceMoment = SourceMoment.ONE;
        private int lanes = 2;
        private long sliceRows = Cut.DEFAULT_ROWS;
        private long sliceBytes = Cut.DEFAULT_BYTES;
        private long rowsPerSecond;
        private long bytesPerSecond;
        private Compression compress = Compression.NONE;
        private OutOfRange outOfRange = OutOfRange.REFUSE;
        private long rejectsAllowed;
        private boolean makeMissing;
        private Depth proof = Depth.DIGESTS;
        private List<ComparisonRule> rules = List.of();
        private boolean backup = true;
        private boolean keepReplaced;
        private boolean followDeletes;
        private Optional<Arrivals> arrivals = Optional.empty();
        private List<TargetStatement> before = List.of();
        private List<TargetStatement> after = List.of();
        private List<CrossingTable> tables = new ArrayList<>();

        private Builder(String from, String to) {
            this.from = from;
            this.to = to;
        }

        /** The folder in which runs are kept; {@code runs} unless told otherwise. */
        public Builder keep(Path value) {
            keep = value;
            return this;
        }

        /** What is done with tables that are at the target already; refused unless told otherwise. */
        public Builder onto(LoadMode value) {
            onto = value;
            return this;
        }

        /** What may be taken for granted of the source; one moment for all unless told otherwise. */
        public Builder sourceMoment(SourceMoment value) {
            sourceMoment = value;
            return this;
        }

        /** How many slices move at once, at most; two unless told otherwise. */
        public Builder lanes(int value) {
            lanes = positive("lanes", value);
            return this;
        }

        /** How many records a slice has, about. */
        public Builder sliceRows(long value) {
            sliceRows = positive("slice-rows", value);
            return this;
        }

        /** How many bytes of a table it has, about, where that is fewer records. */
        public Builder sliceBytes(long value) {
            sliceBytes = positive("slice-bytes", value);
            return this;
        }

        /** How many records and bytes are read at the source, or move, a second, at most; 0 for any number. */
        public Builder pace(long rows, long bytes) {
            if (rows < 0 || bytes < 0) {
                throw new UsageException("a pace can't be negative");
            }
            rowsPerSecond = rows;
            bytesPerSecond = bytes;
            return this;
        }

        /** How the set's files are compressed; not at all unless told otherwise. */
        public Builder compress(Compression value) {
            compress = value;
            return this;
        }

        /** What becomes of values that no other system could hold; refused unless told otherwise. */
        public Builder outOfRange(OutOfRange value) {
            outOfRange = value;
            return this;
        }

        /** How many records of the source may be rejected; none unless told otherwise. */
        public Builder rejectsAllowed(long value) {
            if (value < 0) {
                throw new UsageException("rejects-allowed can't be negative");
            }
            rejectsAllowed = value;
            return this;
        }

        /** Whether the target's database and schemas are made where they aren't there. */
        public Builder makeMissing(boolean value) {
            makeMissing = value;
            return this;
        }

        /** What doesn't count when the target is compared in the end, by rows. */
        public Builder rules(List<ComparisonRule> value) {
            rules = value;
            return this;
        }

        /** How deeply the target is compared in the end. */
        public Builder proof(Depth value) {
            proof = value;
            return this;
        }

        /** Whether tables of the target are exported before they are changed; they are unless told otherwise. */
        public Builder backup(boolean value) {
            backup = value;
            return this;
        }

        /** Whether tables that are replaced are kept in the target; they aren't unless told otherwise. */
        public Builder keepReplaced(boolean value) {
            keepReplaced = value;
            return this;
        }

        /** Whether a catch-up takes records out of the target that are gone at the source; not unless told otherwise. */
        public Builder followDeletes(boolean value) {
            followDeletes = value;
            return this;
        }

        /** The files that arrive. */
        public Builder arrivals(Arrivals value) {
            arrivals = Optional.of(value);
            return this;
        }

        /** Another source. */
        public Builder from(String value) {
            from = value;
            return this;
        }

        /** Statements at the target before the load. */
        public Builder before(List<TargetStatement> value) {
            before = value;
            return this;
        }

        /** Statements at the target after the load. */
        public Builder after(List<TargetStatement> value) {
            after = value;
            return this;
        }

        /** The tables that cross. */
        public Builder tables(List<CrossingTable> value) {
            tables = value;
            return this;
        }

        private static int positive(String what, int value) {
            return (int) positive(what, (long) value);
        }

        private static long positive(String what, long value) {
            if (value < 1) {
                throw new UsageException(what + " is at least 1");
            }
            return value;
        }

        /**
         * The crossing as told.
         *
         * @throws UsageException if one thing that it says excludes another
         */
        public Crossing build() {
            Crossing crossing = new Crossing(this);
            if (keepReplaced && !backup) {
                throw new UsageException("keep-replaced keeps a way back, and backup: false wants none");
            }
            if (keepReplaced
                    && !new Choices(crossing)
                            .of(LoadMode.APPEND, LoadMode.MERGE)
                            .isEmpty()) {
                throw new UsageException(
                        "keep-replaced is for crossings that make and replace tables; what is added to others, or"
                                + " merged into them, has its way back in a backup");
            }
            return crossing;
        }
    }
}
