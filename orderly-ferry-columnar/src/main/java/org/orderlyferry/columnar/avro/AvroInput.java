package org.orderlyferry.columnar.avro;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.avro.Schema;
import org.apache.avro.file.DataFileReader;
import org.apache.avro.generic.GenericDatumReader;
import org.apache.avro.generic.IndexedRecord;
import org.orderlyferry.columnar.FileDefinitions;
import org.orderlyferry.columnar.Guarded;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.OnDisk;
import org.orderlyferry.io.Closing;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;

/** A file to be read. */
final class AvroInput implements AutoCloseable {

    private final String shown;
    private final Guarded guarded;
    private final OnDisk file;
    private final DataFileReader<IndexedRecord> reader;

    AvroInput(FileSource source) {
        this.shown = source.shown();
        this.guarded = new Guarded(shown, "Avro");
        this.file = read(() -> new OnDisk(source));
        DataFileReader<IndexedRecord> opened = null;
        try {
            opened = read(() -> new DataFileReader<>(file.path().toFile(), new GenericDatumReader<>()));
            this.reader = opened;
            read(() -> {
                if (reader.getSchema().getType() != Schema.Type.RECORD) {
                    throw new IOException("its values are no records");
                }
                return null;
            });
        } catch (RuntimeException e) {
            Closing.after(e, opened, file);
            throw e;
        }
    }

    /** Does a step of reading. */
    <T> T read(Guarded.Step<T> step) {
        return guarded.read(step);
    }

    DataFileReader<IndexedRecord> reader() {
        return reader;
    }

    Schema schema() {
        return reader.getSchema();
    }

    /** The table as the file's schema has it, or as its own definition does where that is of these columns. */
    TableDefinition table(String otherwise) {
        List<Schema.Field> fields = schema().getFields();
        Map<String, String> said = new HashMap<>();
        String text = reader.getMetaString(FileDefinitions.KEY);
        if (text != null) {
            said.put(FileDefinitions.KEY, text);
        }
        List<String> names = fields.stream().map(Schema.Field::name).toList();
        Optional<TableDefinition> defined = FileDefinitions.in(said, shown, otherwise)
                .filter(t -> AvroNames.of(t.columnNames()).equals(names));
        if (defined.isPresent()) {
            return defined.get();
        }
        List<ColumnDefinition> columns =
                fields.stream().map(f -> AvroTypes.column(f.schema(), f.name())).toList();
        return TableDefinition.named(otherwise).columns(columns).build();
    }

    /** Pieces of whole blocks, of so many bytes about. */
    List<FilePiece> pieces(long bytes) throws IOException {
        List<FilePiece> pieces = new ArrayList<>();
        long from = reader.previousSync();
        long first = 1;
        long rows = 0;
        while (reader.hasNext()) {
            rows += reader.getBlockCount();
            reader.nextBlock();
            long at = reader.previousSync();
            if (at - from >= bytes) {
                pieces.add(new FilePiece(0, from, at, first));
                from = at;
                first += rows;
                rows = 0;
            }
        }
        if (rows > 0) {
            pieces.add(new FilePiece(0, from, reader.previousSync(), first));
        }
        return pieces.size() < 2 ? List.of(FilePiece.ALL) : pieces;
    }

    @Override
    public void close() {
        try {
            read(() -> {
                reader.close();
                return null;
            });
        } finally {
            file.close();
        }
    }
}
