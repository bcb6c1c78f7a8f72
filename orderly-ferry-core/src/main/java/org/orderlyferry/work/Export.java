package org.orderlyferry.work;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.exportset.SetTarget;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.delimited.DelimitedFormat;
import org.orderlyferry.io.Compression;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Query;

/**
 * Exports tables of a place to an export set. Not safe for use by several threads.
 *
 * <pre>{@code
 * try (Place source = Places.open("herbarium.mv.db")) {
 *     TransferResult result = Export.from(source).tables("specimen", "loan*").to(Path.of("set"));
 * }
 * }</pre>
 */
@NullMarked
public final class Export extends Moving<Export> {

    private final List<Query> queries = new ArrayList<>();
    private FileFormat format = new DelimitedFormat();
    private FileSettings settings = FileSettings.NONE;
    private Compression compression = Compression.NONE;
    private boolean overwrite;
    private boolean inKeyOrder;

    private Export(Place source) {
        super(source);
    }

    @Override
    Export self() {
        return this;
    }

    /** An export of all the place's tables, unless told otherwise. */
    public static Export from(Place source) {
        return new Export(source);
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

    /** Whether an existing set is replaced, which happens only when the new one is complete. */
    public Export overwrite(boolean value) {
        overwrite = value;
        return this;
    }

    /**
     * Whether slices are to be ranges of the tables' keys also where that takes more reading, since the set is for a target that
     * {@link org.orderlyferry.place.TargetPlace#ordersByKey() keeps records by their keys}; not unless told otherwise.
     */
    public Export inKeyOrder(boolean value) {
        inKeyOrder = value;
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
                WorkEnd.of(source().address()),
                new WorkEnd(
                        WrittenPath.of(set),
                        Map.of(WorkEnd.FORMAT, format.name(), WorkEnd.COMPRESSION, compression.name()),
                        settings.values()),
                selection(queries),
                new WorkOrder.Handling(LoadModes.all(overwrite ? LoadMode.REPLACE : LoadMode.CREATE), false, false),
                flow());
        try (SetTarget target = new SetTarget(set, format, settings, compression, source().system())) {
            return done(order, target.inKeyOrder(inKeyOrder), AtTheEnd.NOTHING);
        }
    }
}
