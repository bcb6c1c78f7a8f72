package org.orderlyferry.columnar.avro;

import java.io.IOException;
import java.util.List;
import org.apache.avro.Schema;
import org.apache.avro.generic.IndexedRecord;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.InvalidValueException;

/** Reads a file's records, or those of some of its blocks. */
final class BlocksReader implements RecordReader {

    private final AvroInput input;
    private final String shown;
    private final TableDefinition table;
    private final FilePiece piece;
    private final Rejects rejects;
    private final int[] places;
    private final Schema[] fields;
    private IndexedRecord record;
    private long number;

    /**
     * A reader.
     *
     * @param known all of the file's columns, in its order
     */
    BlocksReader(
            AvroInput input, String shown, TableDefinition table, List<String> known, FilePiece piece, Rejects rejects)
            throws IOException {
        this.input = input;
        this.shown = shown;
        this.table = table;
        this.piece = piece;
        this.rejects = rejects;
        this.number = piece.line() - 1;
        this.places = table.columnNames().stream().mapToInt(known::indexOf).toArray();
        this.fields = new Schema[places.length];
        for (int i = 0; i < fields.length; i++) {
            fields[i] =
                    AvroTypes.single(input.schema().getFields().get(places[i]).schema());
        }
        if (!piece.isWhole()) {
            input.reader().seek(piece.from());
        }
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(places.length, table.name().toString(), shown, true);
        input.read(() -> {
            while (!batch.isFull() && hasRow()) {
                record = input.reader().next(record);
                number++;
                record(batch);
            }
            return null;
        });
        return batch.rows() > 0;
    }

    private boolean hasRow() throws IOException {
        return input.reader().hasNext() && (piece.isWhole() || !isPast());
    }

    /** Whether the next record is of a block that begins behind the piece. */
    private boolean isPast() {
        return input.reader().previousSync() >= piece.to();
    }

    private void record(RecordBatch batch) {
        for (int i = 0; i < places.length; i++) {
            Object value = record.get(places[i]);
            try {
                Object taken = value == null ? null : AvroCells.of(fields[i], value);
                if (taken == null) {
                    batch.addNull();
                } else if (taken instanceof byte[] bytes) {
                    batch.add(bytes);
                } else if (!batch.add((String) taken)) {
                    throw new InvalidValueException("holds half of a surrogate pair, which no encoding of Unicode has");
                }
            } catch (InvalidValueException e) {
                batch.dropRow();
                rejects.reject(new BadValueException(
                        new Origin(table.name().toString(), shown, number, true),
                        table.columns().get(i).name(),
                        String.valueOf(value),
                        e.getMessage()));
                return;
            }
        }
        batch.endRow(number);
    }

    @Override
    public void close() {
        input.close();
    }
}
