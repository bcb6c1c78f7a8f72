package org.orderlyferry.transfer;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Supplier;
import org.orderlyferry.exportset.ExportSetWriter;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Query;
import org.orderlyferry.place.QueryPlace;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.RecordReader;

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
    private CsvDialect dialect = CsvDialect.RFC_4180;
    private boolean overwrite;
    private ProgressListener listener = ProgressListener.NONE;
    private StopSignal stop = new StopSignal();

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

    /** How files are written. */
    public Export dialect(CsvDialect value) {
        dialect = value;
        return this;
    }

    /** Whether an existing set is replaced, which happens only when the new one is complete. */
    public Export overwrite(boolean value) {
        overwrite = value;
        return this;
    }

    public Export listener(ProgressListener value) {
        listener = value;
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
        source.verify();
        List<TableName> tables =
                patterns.isEmpty() && !queries.isEmpty() ? List.of() : TableChoice.of(source, patterns);
        List<TableDefinition> definitions = new ArrayList<>();
        tables.forEach(t -> definitions.add(source.define(t)));
        List<TableDefinition> queried = queryDefinitions(Set.copyOf(tables));
        definitions.addAll(queried);
        long[] counts = tables.stream().mapToLong(source::count).toArray();
        listener.planned(definitions.stream().map(TableDefinition::name).toList(), sum(counts));

        List<MovedTable> moved = new ArrayList<>();
        List<Finding> findings = new ArrayList<>();
        try (ExportSetWriter writer = new ExportSetWriter(set, overwrite, dialect, source.system(), definitions)) {
            listener.stage(ProgressListener.Stage.MOVING);
            for (int i = 0; i < tables.size(); i++) {
                TableDefinition table = definitions.get(i);
                moved.add(move(writer, table, counts[i], () -> source.read(Slice.whole(table)), findings));
            }
            for (int i = 0; i < queried.size(); i++) {
                Query query = queries.get(i);
                moved.add(move(writer, queried.get(i), 0, () -> ((QueryPlace) source).read(query), findings));
            }
            listener.stage(ProgressListener.Stage.FINISHING);
            stop.check();
            writer.complete(source.leftBehind());
        }
        return new TransferResult(moved, findings, source.leftBehind());
    }

    private static long sum(long[] counts) {
        return java.util.Arrays.stream(counts).sum();
    }

    private List<TableDefinition> queryDefinitions(Set<TableName> tables) {
        Set<TableName> names = new LinkedHashSet<>(tables);
        List<TableDefinition> definitions = new ArrayList<>();
        for (Query query : queries) {
            if (!(source instanceof QueryPlace queryable)) {
                throw new UsageException(source.address() + " can't answer queries; only a database can");
            }
            if (!names.add(query.name())) {
                throw new UsageException("the query's name " + query.name() + " is taken; give another");
            }
            definitions.add(queryable.define(query));
        }
        return definitions;
    }

    private MovedTable move(
            ExportSetWriter set,
            TableDefinition table,
            long count,
            Supplier<RecordReader> opener,
            List<Finding> findings) {
        try (ExportSetWriter.TableFile file = set.file(table.name());
                RecordReader reader = opener.get()) {
            Mover mover = new Mover(table.name(), listener, stop);
            mover.move(reader, file, count);
            findings.addAll(reader.findings());
            return mover.result(file.bytes(), file.tally());
        }
    }
}
