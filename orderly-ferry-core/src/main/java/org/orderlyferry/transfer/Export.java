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
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Query;
import org.orderlyferry.place.QueryPlace;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.problem.PlaceException;
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
        List<FailedTable> failed = new ArrayList<>();
        List<TableDefinition> definitions = new ArrayList<>();
        List<Long> counts = new ArrayList<>();
        for (TableName table : tables) {
            readable(table, failed, () -> {
                TableDefinition definition = source.define(table);
                counts.add(source.count(table));
                definitions.add(definition);
            });
        }
        int tableCount = definitions.size();
        List<TableDefinition> queried = queryDefinitions(Set.copyOf(tables));
        definitions.addAll(queried);
        listener.planned(
                definitions.stream().map(TableDefinition::name).toList(),
                counts.stream().mapToLong(Long::longValue).sum());
        List<MovedTable> moved = new ArrayList<>();
        List<Finding> findings = new ArrayList<>();
        List<LeftBehind> leftBehind = new ArrayList<>(source.leftBehind());
        try (ExportSetWriter writer = new ExportSetWriter(set, overwrite, dialect, source.system(), definitions)) {
            listener.stage(ProgressListener.Stage.MOVING);
            for (int i = 0; i < tableCount; i++) {
                TableDefinition table = definitions.get(i);
                long count = counts.get(i);
                boolean read = readable(table.name(), failed, () -> {
                    moved.add(move(writer, table, count, () -> source.read(Slice.whole(table)), findings));
                });
                if (!read) {
                    writer.leaveOut(table.name());
                }
            }
            for (int i = 0; i < queried.size(); i++) {
                Query query = queries.get(i);
                moved.add(move(writer, queried.get(i), 0, () -> ((QueryPlace) source).read(query), findings));
            }
            listener.stage(ProgressListener.Stage.FINISHING);
            stop.check();
            failed.forEach(f -> leftBehind.add(new LeftBehind("table", f.table().toString(), f.reason())));
            if (moved.isEmpty() && !failed.isEmpty()) {
                throw new PlaceException(source.address(), "no table could be read; " + failed.get(0), true, null);
            }
            writer.complete(leftBehind);
        }
        return new TransferResult(moved, failed, findings, leftBehind, false);
    }

    /** Does something with a table; if the user lacks the right to, the table is noted, and the others go on. */
    private static boolean readable(TableName table, List<FailedTable> failed, Runnable work) {
        try {
            work.run();
            return true;
        } catch (PlaceException e) {
            if (!e.isDenied()) {
                throw e;
            }
            failed.add(new FailedTable(table, e.getMessage()));
            return false;
        }
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
        // opened first: a table that may not be read leaves no file
        try (RecordReader reader = opener.get();
                ExportSetWriter.TableFile file = set.file(table.name())) {
            Mover mover = new Mover(table.name(), listener, stop);
            mover.move(reader, file, count);
            findings.addAll(reader.findings());
            return mover.result(file.bytes(), file.tally());
        }
    }
}
