package org.orderlyferry.work;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.BiFunction;
import org.orderlyferry.exportset.ExportSetWriter;
import org.orderlyferry.format.Compression;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.DelimitedFormat;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Query;
import org.orderlyferry.place.QueryPlace;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.Crew;
import org.orderlyferry.progress.OneAtATime;
import org.orderlyferry.progress.Plan;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.progress.Stoppable;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
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
    private Pace pace = new Pace(0, 0);
    private ProgressListener listener = ProgressListener.NONE;
    private StopSignal stop = new StopSignal();
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
        pace = new Pace(rowsPerSecond, bytesPerSecond);
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
        return Stoppable.run(stop, source::cancel, () -> exported(set));
    }

    private TransferResult exported(Path set) {
        ProgressListener told = new OneAtATime(listener);
        told.stage(ProgressListener.Stage.CHECKING);
        source.verify();
        told.stage(ProgressListener.Stage.PLANNING);
        try (Hands hands = Hands.into(source, lanes)) {
            List<FailedTable> denied = new ArrayList<>();
            List<Work> works = plan(hands, told, denied);
            return new Moving(set, hands, works, told).run(denied);
        }
    }

    private List<Work> plan(Hands hands, ProgressListener told, List<FailedTable> denied) {
        List<TableName> tables =
                patterns.isEmpty() && !queries.isEmpty() ? List.of() : TableChoice.of(source, patterns);
        Cut cut = cut(tables);
        List<Work> works = new ArrayList<>();
        List<Plan.Table> planned = new ArrayList<>();
        for (TableName table : tables) {
            stop.check();
            try {
                planned.add(plan(table, cut, works));
            } catch (PlaceException e) {
                denied.add(denial(table, e));
            }
        }
        works.addAll(queried(Set.copyOf(tables)));
        told.plan(new Plan(hands.connections(), hands.all().size(), planned));
        told.planned(
                works.stream().map(w -> w.table().name()).distinct().toList(),
                planned.stream().mapToLong(Plan.Table::rows).sum());
        return works;
    }

    private Plan.Table plan(TableName table, Cut cut, List<Work> works) {
        TableDefinition definition = source.define(table);
        long rows = source.estimate(table);
        List<Slice> slices = source.cut(definition, rows, cut);
        TableSum sum = new TableSum(table, slices.size());
        for (int i = 0; i < slices.size(); i++) {
            Slice slice = slices.get(i);
            works.add(
                    new Work(definition, rows, sum, slices.size() > 1 ? i + 1 : 0, (p, heard) -> p.read(slice, heard)));
        }
        return new Plan.Table(
                table,
                rows,
                slices.size(),
                slices.get(0).range().map(r -> r.columns()).orElse(List.of()));
    }

    /** If the user lacks the right to a table, that is noted, and the others go on. */
    private static FailedTable denial(TableName table, PlaceException e) {
        if (!e.isDenied()) {
            throw e;
        }
        return new FailedTable(table, e.getMessage());
    }

    private Cut cut(List<TableName> tables) {
        Map<TableName, String> columns = new LinkedHashMap<>();
        cutBy.forEach((name, column) -> {
            TableName table = TableChoice.one(source, name);
            if (!tables.contains(table)) {
                throw new UsageException("table " + name + " is to be cut, but not to be exported");
            }
            columns.put(table, column);
        });
        return new Cut(sliceRows, columns);
    }

    /**
     * A slice to be moved.
     *
     * @param rows of the whole table
     * @param part which of the table's files, from 1; 0 for the only one
     */
    private record Work(
            TableDefinition table,
            long rows,
            TableSum sum,
            int part,
            BiFunction<Place, Rejects, RecordReader> opener) {}

    private List<Work> queried(Set<TableName> tables) {
        Set<TableName> names = new LinkedHashSet<>(tables);
        List<Work> works = new ArrayList<>();
        for (Query query : queries) {
            if (!(source instanceof QueryPlace queryable)) {
                throw new UsageException(source.address() + " can't answer queries; only a database can");
            }
            if (!names.add(query.name())) {
                throw new UsageException("the query's name " + query.name() + " is taken; give another");
            }
            TableDefinition definition = queryable.define(query);
            works.add(new Work(definition, 0, new TableSum(query.name(), 1), 0, (place, heard) -> ((QueryPlace) place)
                    .read(query)));
        }
        return works;
    }

    /** An export whose plan is made. */
    private final class Moving {

        private final Path set;
        private final Hands hands;
        private final List<Work> works;
        private final ProgressListener told;
        private final Crew crew = new Crew(stop);
        private final Map<TableName, FailedTable> failed = new ConcurrentHashMap<>();
        private final List<Finding> findings = Collections.synchronizedList(new ArrayList<>());

        Moving(Path set, Hands hands, List<Work> works, ProgressListener told) {
            this.set = set;
            this.hands = hands;
            this.works = works;
            this.told = told;
        }

        TransferResult run(List<FailedTable> denied) {
            findings.addAll(source.notices());
            findings.addAll(hands.findings());
            List<LeftBehind> leftBehind = new ArrayList<>(source.leftBehind());
            List<FailedTable> allFailed = new ArrayList<>(denied);
            List<TableDefinition> tables =
                    works.stream().map(Work::table).distinct().toList();
            try (ExportSetWriter writer =
                    new ExportSetWriter(set, overwrite, format, settings, compression, source.system(), tables)) {
                writer.cleared()
                        .forEach(left -> findings.add(Finding.of(
                                TableName.of("(all)"),
                                "an earlier export to this place was killed; what it had left was cleared away: "
                                        + left.getFileName())));
                told.stage(ProgressListener.Stage.MOVING);
                crew.work(hands.all(), works, (hand, work) -> move(writer, hand, work));
                told.stage(ProgressListener.Stage.FINISHING);
                stop.check();
                works.stream()
                        .map(w -> failed.get(w.table().name()))
                        .filter(Objects::nonNull)
                        .distinct()
                        .forEach(allFailed::add);
                if (!allFailed.isEmpty()
                        && works.stream().noneMatch(w -> w.sum().isDone())) {
                    throw new PlaceException(source.address(), "no table could be read; " + allFailed.get(0), null);
                }
                allFailed.forEach(
                        f -> leftBehind.add(new LeftBehind("table", f.table().toString(), f.reason())));
                writer.complete(leftBehind);
                writer.notRemoved()
                        .ifPresent(old -> findings.add(Finding.of(
                                TableName.of("(all)"),
                                "the set is whole, but what it took the place of can't be removed: " + old)));
            }
            List<MovedTable> moved = works.stream()
                    .map(Work::sum)
                    .distinct()
                    .filter(TableSum::isDone)
                    .map(TableSum::result)
                    .toList();
            return new TransferResult(moved, allFailed, findings, leftBehind, false);
        }

        /** A slice; nothing more is read of a table of which one slice was denied. */
        private void move(ExportSetWriter writer, Hand hand, Work work) {
            TableName table = work.table().name();
            if (failed.containsKey(table)) {
                return;
            }
            try {
                if (work.sum().begin()) {
                    told.tableStarted(table, work.rows());
                }
                told.sliceStarted(table);
                long[] size = {0};
                SliceMove.Result result =
                        Retry.of(() -> attempt(writer, hand, work, size), crew::check, (failure, pause) -> {
                            told.tryingAgain(table, failure.getMessage(), pause);
                            hand.renew(failure);
                        });
                findings.addAll(result.findings());
                boolean last = work.sum().add(result, size[0]);
                told.sliceFinished(table);
                if (last) {
                    told.tableFinished(table, work.sum().rows());
                }
            } catch (PlaceException e) {
                failed.put(table, denial(table, e));
                writer.leaveOut(table);
            }
        }

        private SliceMove.Result attempt(ExportSetWriter writer, Hand hand, Work work, long[] size) {
            TableName table = work.table().name();
            return new SliceMove(table, new Mover(table, told, pace, crew::check), crew::check)
                    .run(
                            rejects.orElseGet(source::rejects),
                            heard -> work.opener().apply(hand.place(), heard),
                            taker -> {
                                ExportSetWriter.TableFile file = work.part() == 0
                                        ? writer.file(table, taker)
                                        : writer.part(table, work.part(), taker);
                                return new Sized(file, size);
                            });
        }
    }

    /** Tells how large a file is once it is whole. */
    private record Sized(ExportSetWriter.TableFile file, long[] size) implements RecordWriter {

        @Override
        public void write(RecordBatch batch) {
            file.write(batch);
        }

        @Override
        public void finish() {
            file.finish();
            size[0] = file.bytes();
        }

        @Override
        public void close() {
            file.close();
        }
    }
}
