package org.orderlyferry.documents.mongodb;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.bson.BsonSerializationException;
import org.bson.RawBsonDocument;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.documents.bson.CellBytes;
import org.orderlyferry.documents.bson.ColumnCells;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.progress.PiecesAhead;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.InvalidValueException;

/** Gives records of the documents one after the other. */
abstract class DocumentReader implements RecordReader {

    private static final int SHOWN = 200;

    private final Server server;
    private final PiecesAhead<RawBsonDocument> documents;
    private final TableDefinition table;
    private final Rejects rejects;
    private final Map<String, Integer> places = new HashMap<>();
    private final Set<String> unread;
    private final CellBytes[] values;
    private final boolean[] seen;
    private final ColumnCells[] cells;
    private final boolean[] required;
    private long number;

    /**
     * A reader.
     *
     * @param whole the table with all its columns
     * @param columns those to give
     * @param unread fields that nobody wants
     */
    DocumentReader(
            Server server,
            PiecesAhead<RawBsonDocument> documents,
            TableDefinition whole,
            List<String> columns,
            Set<String> unread,
            Rejects rejects) {
        this.server = server;
        this.documents = documents;
        this.table = whole.withColumns(columns);
        this.rejects = rejects;
        this.unread = unread;
        whole.columnNames().forEach(n -> places.put(n, -1));
        for (int i = 0; i < columns.size(); i++) {
            places.put(columns.get(i), i);
        }
        this.values = columns.stream().map(c -> new CellBytes()).toArray(CellBytes[]::new);
        this.seen = new boolean[columns.size()];
        this.required = new boolean[columns.size()];
        for (int i = 0; i < required.length; i++) {
            required[i] = !table.columns().get(i).nullable();
        }
        this.cells = table.columns().stream()
                .map(c -> new ColumnCells(c, whole.system()))
                .toArray(ColumnCells[]::new);
    }

    /** Takes a document apart into records, by {@link #begin}, values and {@link #end}. */
    abstract void records(RawBsonDocument document, RecordBatch batch);

    @Override
    public final TableDefinition table() {
        return table;
    }

    @Override
    public final boolean read(RecordBatch batch) {
        batch.start(table, server.shown());
        server.work("table " + table.name() + " can't be read", () -> {
            while (!batch.isFull() && documents.hasNext()) {
                number++;
                RawBsonDocument document = documents.next();
                try {
                    records(document, batch);
                } catch (BsonSerializationException e) {
                    rejects.reject(new BadRecordException(
                            origin(), table.name().toString(), "", String.valueOf(e.getMessage()), e));
                }
            }
            return null;
        });
        return batch.rows() > 0;
    }

    /** Which document it is, from 1. */
    final long number() {
        return number;
    }

    /** The next record begins. */
    final void begin() {
        for (int i = 0; i < values.length; i++) {
            values[i].end = -1;
            seen[i] = false;
        }
    }

    /** The place of a column; -1 for one that isn't wanted, and nothing for a field that is none. */
    final @Nullable Integer place(String name) {
        return places.containsKey(name) || !unread.contains(name) ? places.get(name) : Integer.valueOf(-1);
    }

    /** The cells of a column. */
    final ColumnCells cells(int place) {
        return cells[place];
    }

    /** Where a value of the record goes. */
    final CellBytes take(int place) throws InvalidValueException {
        if (seen[place]) {
            throw new InvalidValueException("stands there twice");
        }
        seen[place] = true;
        return values[place];
    }

    /** Takes a value of the record. */
    final void take(int place, byte @Nullable [] value) throws InvalidValueException {
        CellBytes cell = take(place);
        if (value != null) {
            cell.bytes = value;
            cell.start = 0;
            cell.end = value.length;
        }
    }

    /** The record is whole; it isn't taken if a column that can't be null is. */
    final void end(RecordBatch batch) {
        for (int i = 0; i < values.length; i++) {
            if (values[i].end < 0 && required[i]) {
                rejects.reject(new BadValueException(
                        origin(), table.columns().get(i).name(), null, "isn't allowed: the column is NOT NULL"));
                return;
            }
        }
        for (CellBytes value : values) {
            if (value.end < 0) {
                batch.addNull();
            } else {
                batch.add(value.bytes, value.start, value.end);
            }
        }
        batch.endRow(number);
    }

    /** The record has a field that its table doesn't know. */
    final void unknown(String key, String field) {
        rejects.reject(new BadRecordException(
                origin(),
                table.name().toString(),
                key,
                "it has a field " + field + ", which was in no document when they were looked at",
                null));
    }

    /** The record has a value that its column doesn't. */
    final void wrong(String column, String value, InvalidValueException why) {
        rejects.reject(new BadValueException(
                origin(), column, value.length() > SHOWN ? value.substring(0, SHOWN) + "…" : value, why.getMessage()));
    }

    private Origin origin() {
        return new Origin(table.name().toString(), server.shown(), number, false);
    }

    @Override
    public final void close() {
        documents.close();
    }
}
