package org.orderlyferry.work;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.exportset.SetTarget;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.delimited.DelimitedFormat;
import org.orderlyferry.io.Compression;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Query;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.Rejects;

/**
 * Exports tables of a place to an export set. Not safe for use by several threads.
 *
 * <pre>{@code
 * try (Place source = Places.open("herbarium.mv.db")) {
 *     TransferResult result = Export.from(source).tables("specimen", "loan*").to(Path.of("set"));
 * }
 * }</pre>
 */
public final class Export {

    private final Place source;
    private final List<String> patterns = new ArrayList<>();
    private final List<Query> queries = new ArrayList<>();
    private FileFormat format = new DelimitedFormat();
    private FileSettings settings = FileSettings.NONE;
    private Compression compression = Compression.NONE;
    private boolean overwrite;
    private int lanes = 1;
    private long sliceRows = Cut.DEFAULT_ROWS;
    private final Map<String, String> cutBy = new LinkedHashMap<>();
    private long rowsPerSecond;
    private long bytesPerSecond;
    private ProgressListener listener = ProgressListener.NONE;
    private StopSignal stop = new StopSignal();
    private Optional<PlanFile> plan = Optional.empty();
    private Optional<Rejects> rejects = Optional.empty();

    private Export(Place source) {
        this.source = source;
    }

    /** An export of all the place's tables, unless told otherwise. */
    public static Export from(Place source) {
        return new Export(source);
    }

    /** Only these tables; {@code *} in a name stands for any characters. */
    public Export tables(String... names) {
        patterns.addAll(List.of(names));
        return this;
    }

    /** What a query gives, as a table of this name. With no {@link #tables} named, only queries are exported. */
    public Export query(String name, String sql) {
        queries.add(new Query(TableName.of(name), sql));
        return this;
    }

    /** In which dialect delimited files are written; that of RFC 4180 unless told otherwise. */
    public Export dialect(CsvDialect value) {
        return format(new DelimitedFormat(), value.settings());
    }

    /** What kind of files the set has, each of one table; delimited text unless told otherwise. */
    public Export format(FileFormat value, FileSettings itsSettings) {
        value.check(itsSettings);
        format = value;
        settings = itsSettings;
        return this;
    }

    /** How files are compressed; not at all unless told otherwise. */
    public Export compression(Compression value) {
        compression = value;
        return this;
    }

    /** How many slices move at once, at most; one unless told otherwise. */
    public Export lanes(int value) {
        if (value < 1) {
            throw new UsageException("an export needs at least one lane");
        }
        lanes = value;
        return this;
    }

    /** How many records a slice has, about; {@link Cut#DEFAULT_ROWS} unless told otherwise. */
    public Export sliceRows(long value) {
        if (value < 1) {
            throw new UsageException("a slice has at least one record");
        }
        sliceRows = value;
        return this;
    }

    /** By which column a table is cut, instead of its primary key. */
    public Export cutBy(String table, String column) {
        cutBy.put(table, column);
        return this;
    }

    /** How many records and bytes move a second, at most; 0 for any number. */
    public Export pace(long rowsPerSecond, long bytesPerSecond) {
        this.rowsPerSecond = rowsPerSecond;
        this.bytesPerSecond = bytesPerSecond;
        return this;
    }

    /** Whether an existing set is replaced, which happens only when the new one is complete. */
    public Export overwrite(boolean value) {
        overwrite = value;
        return this;
    }

    /** Who hears of records that can't be taken; whoever the source was opened with unless told otherwise. */
    public Export rejects(Rejects value) {
        rejects = Optional.of(value);
        return this;
    }

    public Export listener(ProgressListener value) {
        listener = value;
        return this;
    }

    /** Where the plan is kept, so that the work goes on by it after it was cut short; nowhere unless told otherwise. */
    public Export plan(PlanFile value) {
        plan = Optional.of(value);
        return this;
    }

    public Export stopSignal(StopSignal value) {
        stop = value;
        return this;
    }

    /**
     * Does it.
     *
     * @param set the folder that is to become the set
     * @throws org.orderlyferry.problem.FerryException if it fails; no set is left behind then, and an older one stays
     */
    public TransferResult to(Path set) {
        WorkOrder order = new WorkOrder(
                WorkOrder.Kind.EXPORT,
                WorkEnd.of(source.address()),
                new WorkEnd(
                        set.toString(),
                        Map.of(WorkEnd.FORMAT, format.name(), WorkEnd.COMPRESSION, compression.name()),
                        settings.values()),
                new WorkOrder.Selection(patterns, queries, sliceRows, cutBy),
                new WorkOrder.Handling(overwrite ? LoadMode.REPLACE : LoadMode.CREATE, false, false),
                new WorkOrder.Flow(lanes, rowsPerSecond, bytesPerSecond));
        try (SetTarget target = new SetTarget(set, format, settings, compression, source.system())) {
            return new Conductor(order, source, target, rejects, listener, stop, plan).run();
        }
    }
}
