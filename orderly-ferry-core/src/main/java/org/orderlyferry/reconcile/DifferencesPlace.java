package org.orderlyferry.reconcile;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalLong;
import java.util.stream.Stream;
import org.apiguardian.api.API;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.CsvFormat;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;

/**
 * Keeps the records that differ in temporary files, and gives them as tables, to be loaded into a file of any format. Each
 * record has what is the matter with it, and of which side its values are: one that both sides have stands there twice. For
 * one thread.
 */
@API(status = API.Status.INTERNAL)
public final class DifferencesPlace implements Place, DifferenceListener {

    /** The column that says what is the matter. */
    public static final String DIFFERENCE = "difference";

    /** The column that says of which side the values are. */
    public static final String SIDE = "side";

    private static final int OWN = 2;

    private final Path folder;
    private final Map<TableName, Kept> tables = new LinkedHashMap<>();

    /** A table's records so far. */
    private static final class Kept {
        private final TableDefinition table;
        private final Path file;
        private final RecordWriter writer;
        private final RecordBatch batch = new RecordBatch();
        private long rows;

        Kept(TableDefinition table, Path file) throws IOException {
            this.table = table;
            this.file = file;
            OutputStream out = Files.newOutputStream(file);
            this.writer = format().writer(out, table);
            start();
        }

        private void start() {
            batch.start(table.columns().size(), table.name().toString(), file.toString(), false);
        }

        void add(RowDifference.Kind kind, String side, RecordValues values) {
            batch.add(kind.name().toLowerCase(Locale.ROOT).getBytes(StandardCharsets.US_ASCII));
            batch.add(side.getBytes(StandardCharsets.US_ASCII));
            for (int i = OWN; i < table.columns().size(); i++) {
                byte[] value = values.bytes(i - OWN);
                if (value == null) {
                    batch.addNull();
                } else {
                    batch.add(value);
                }
            }
            batch.endRow(++rows);
            if (batch.isFull()) {
                flush();
            }
        }

        private void flush() {
            if (batch.rows() > 0) {
                writer.write(batch);
            }
            start();
        }

        void end() {
            flush();
            writer.finish();
            writer.close();
        }
    }

    /** None yet. */
    public DifferencesPlace() {
        try {
            folder = Files.createTempDirectory("orderly-ferry-differences");
        } catch (IOException e) {
            throw new PlaceException("the temporary folder", "differences can't be kept there: " + e.getMessage(), e);
        }
    }

    private static CsvFormat format() {
        return new CsvFormat(CsvDialect.RFC_4180);
    }

    @Override
    public void found(RowDifference difference) {
        Kept kept = tables.computeIfAbsent(difference.table().name(), n -> open(difference.table()));
        difference.source().ifPresent(values -> kept.add(difference.kind(), "source", values));
        difference.target().ifPresent(values -> kept.add(difference.kind(), "target", values));
    }

    private Kept open(TableDefinition compared) {
        TableDefinition.Builder table =
                TableDefinition.named(compared.name().name()).name(compared.name());
        table.column(own(DIFFERENCE, compared)).column(own(SIDE, compared));
        compared.columns()
                .forEach(c ->
                        table.column(ColumnDefinition.named(c.name(), c.type()).build()));
        try {
            return new Kept(table.build(), folder.resolve(tables.size() + ".csv"));
        } catch (IOException e) {
            throw failed(e);
        }
    }

    /** A column of ours, by a name that the table hasn't. */
    private static ColumnDefinition own(String name, TableDefinition table) {
        String free = name;
        while (table.column(free).isPresent()) {
            free += "_";
        }
        return ColumnDefinition.named(free, LogicalType.varchar(9))
                .nullable(false)
                .build();
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(folder.toString(), "differences can't be kept there: " + e.getMessage(), e);
    }

    /** All have been heard of; from now on they can be read. */
    public void complete() {
        tables.values().forEach(Kept::end);
    }

    @Override
    public String address() {
        return "the differences";
    }

    @Override
    public String system() {
        return "differences";
    }

    @Override
    public List<TableName> tables() {
        return List.copyOf(tables.keySet());
    }

    @Override
    public TableDefinition define(TableName table) {
        return tables.get(table).table;
    }

    @Override
    public long count(TableName table) {
        return tables.get(table).rows;
    }

    @Override
    public OptionalLong bytes(TableName table) {
        return OptionalLong.empty();
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return List.of();
    }

    @Override
    public RecordReader read(Slice slice) {
        Kept kept = tables.get(slice.table());
        try {
            InputStream in = Files.newInputStream(kept.file);
            return format().reader(in, kept.file.toString(), kept.table, slice.columns());
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    public void close() {
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.toList()) {
                Files.delete(file);
            }
            Files.delete(folder);
        } catch (IOException e) {
            throw failed(e);
        }
    }
}
