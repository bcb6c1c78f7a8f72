package org.orderlyferry.crossing;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.CsvFormat;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Removal;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.reconcile.MissingKeys;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;

/** Keys of records that are gone at the source: a CSV file for each table that has some, by the table's number. */
final class DeletedKeys implements MissingKeys, AutoCloseable {

    private final Path folder;
    private final List<TableName> tables;
    private final Map<TableName, RecordWriter> writers = new LinkedHashMap<>();

    /**
     * In a folder, which is emptied first.
     *
     * @param tables all tables, by which they are numbered
     */
    DeletedKeys(Path folder, List<TableName> tables) {
        this.folder = folder;
        this.tables = List.copyOf(tables);
        try {
            Files.createDirectories(folder);
            for (int i = 0; i < tables.size(); i++) {
                Files.deleteIfExists(file(folder, i));
            }
        } catch (IOException e) {
            throw failed(folder, e);
        }
    }

    private static Path file(Path folder, int number) {
        return folder.resolve(number + ".csv");
    }

    private static PlaceException failed(Path folder, IOException e) {
        return new PlaceException(folder.toString(), "the keys of deleted records can't be kept: " + e.getMessage(), e);
    }

    private static CsvFormat format() {
        return new CsvFormat(CsvDialect.RFC_4180);
    }

    @Override
    public void missing(TableDefinition key, RecordBatch batch) {
        writers.computeIfAbsent(key.name(), n -> writer(key)).write(batch);
    }

    private RecordWriter writer(TableDefinition key) {
        try {
            OutputStream out = Files.newOutputStream(file(folder, tables.indexOf(key.name())));
            return format().writer(out, key);
        } catch (IOException e) {
            throw failed(folder, e);
        }
    }

    /** All keys are there. */
    void finish() {
        writers.values().forEach(RecordWriter::finish);
    }

    @Override
    public void close() {
        writers.values().forEach(RecordWriter::close);
    }

    /** Whether any record is gone of a table. */
    static boolean areThere(Path folder, List<TableName> tables, TableName table) {
        return Files.exists(file(folder, tables.indexOf(table)));
    }

    /**
     * The records that are gone of a table.
     *
     * @param whole the table as the target has it
     */
    static Removal removal(Path folder, List<TableName> tables, TableDefinition whole) {
        Path file = file(folder, tables.indexOf(whole.name()));
        try (InputStream in = Files.newInputStream(file)) {
            List<String> columns = format().header(in, file.toString());
            TableDefinition key = whole.withColumns(columns);
            return new Removal(key, () -> reader(file, key, columns));
        } catch (IOException e) {
            throw failed(folder, e);
        }
    }

    /** How many there are of a table. */
    static long count(Removal removal) {
        long count = 0;
        RecordBatch batch = new RecordBatch();
        try (RecordReader keys = removal.keys().get()) {
            while (keys.read(batch)) {
                count += batch.rows();
            }
        }
        return count;
    }

    private static RecordReader reader(Path file, TableDefinition key, List<String> columns) {
        try {
            return format().reader(Files.newInputStream(file), file.toString(), key, columns);
        } catch (IOException e) {
            throw failed(file, e);
        }
    }
}
