package org.orderlyferry.format.delimited;

import java.util.Base64;
import java.util.List;
import java.util.stream.Stream;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FieldCount;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Reads records of dialects that RFC 4180 doesn't know. Columns go by their places in the file. */
final class DelimitedReader implements RecordReader {

    private final DelimitedScanner scanner;
    private final String source;
    private final TableDefinition table;
    private final int[] places;
    private final List<String> all;
    private final List<String> nulls;
    private final boolean[] binary;
    private final Rejects rejects;

    /**
     * A reader behind the header.
     *
     * @param all the names of all columns in the file's order
     * @param nulls what stands for null without quotes
     * @param rejects hears of records with too many or too few values
     */
    DelimitedReader(
            DelimitedScanner scanner,
            String source,
            TableDefinition table,
            List<String> all,
            List<String> nulls,
            Rejects rejects) {
        this.scanner = scanner;
        this.source = source;
        this.table = table;
        this.all = all;
        this.nulls = nulls;
        this.rejects = rejects;
        this.places = table.columnNames().stream().mapToInt(all::indexOf).toArray();
        this.binary = new boolean[places.length];
        for (int i = 0; i < places.length; i++) {
            binary[i] = table.columns().get(i).type().name().isBinary();
        }
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(places.length, table.name().toString(), source, true);
        while (!batch.isFull()) {
            DelimitedScanner.Scanned record = scanner.next();
            if (record == null) {
                break;
            }
            try {
                if (record.fault() != null) {
                    throw new MalformedFileException(scanner.origin(record.line()), record.fault());
                }
                take(record, batch);
            } catch (MalformedFileException | BadValueException e) {
                batch.dropRow();
                rejects.reject(e);
            }
        }
        return batch.rows() > 0;
    }

    private void take(DelimitedScanner.Scanned record, RecordBatch batch) {
        if (record.fields().size() != all.size()) {
            throw new MalformedFileException(
                    scanner.origin(record.line()),
                    new FieldCount(record.fields().size(), all.size()).toString());
        }
        for (int i = 0; i < places.length; i++) {
            value(record, i, batch);
        }
        batch.endRow(record.line());
    }

    private void value(DelimitedScanner.Scanned record, int column, RecordBatch batch) {
        DelimitedScanner.Field field = record.fields().get(places[column]);
        if (!field.quoted() && nulls.contains(field.raw())) {
            batch.addNull();
        } else if (binary[column]) {
            try {
                batch.add(Base64.getDecoder().decode(field.text()));
            } catch (IllegalArgumentException e) {
                throw bad(record, column, "isn't base64, as binary values are written in a text file");
            }
        } else if (!batch.add(field.text())) {
            throw bad(record, column, "holds half of a surrogate pair, which no encoding of Unicode has");
        }
    }

    private BadValueException bad(DelimitedScanner.Scanned record, int column, String why) {
        return new BadValueException(
                scanner.origin(record.line()),
                table.columns().get(column).name(),
                record.fields().get(places[column]).text(),
                why);
    }

    @Override
    public List<Finding> findings() {
        return Stream.concat(scanner.lineEnds().oddity().stream(), scanner.passedOver().stream())
                .map(text -> Finding.of(FindingCode.FORM_FOUND, table.name(), source + ": " + text))
                .toList();
    }

    @Override
    public void close() {
        scanner.close();
    }
}
