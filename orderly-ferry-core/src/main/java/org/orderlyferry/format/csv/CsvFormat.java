package org.orderlyferry.format.csv;

import java.io.InputStream;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.List;
import org.apiguardian.api.API;
import org.orderlyferry.format.ColumnMatch;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.format.Format;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Rejects;

/**
 * Delimited text in a dialect.
 *
 * @param dialect the settings
 */
@API(status = API.Status.INTERNAL)
public record CsvFormat(CsvDialect dialect) implements Format {

    @Override
    public String name() {
        return "CSV";
    }

    /**
     * Reads records.
     *
     * @param in the file's bytes; closed with the reader
     * @param source the file as messages name it
     * @param table the table that the file holds; its columns are in the file's order where the file doesn't name them,
     *     and matched by name where it does
     * @param columns which columns to give, in this order
     * @throws org.orderlyferry.problem.FerryException if the file isn't of this format, or a column is missing on
     *     either side
     */
    public RecordReader reader(InputStream in, String source, TableDefinition table, List<String> columns) {
        return reader(in, source, table, columns, Rejects.STOP);
    }

    /** Reads records as above; those that the file can't give are handed to {@code rejects}. */
    public RecordReader reader(
            InputStream in, String source, TableDefinition table, List<String> columns, Rejects rejects) {
        CsvInput input = new CsvInput(in, source, table.name().toString(), dialect);
        try {
            List<String> names = dialect.header() ? input.header() : table.columnNames();
            ColumnMatch.check(names, table.columnNames(), input.origin(1));
            int[] match = columns.stream().mapToInt(names::indexOf).toArray();
            return new CsvReader(input, table.withColumns(columns), match, names, rejects);
        } catch (RuntimeException e) {
            input.close();
            throw e;
        }
    }

    /**
     * Reads the records of a piece, which has no header.
     *
     * @param piece closed with the reader
     * @param line the line of the file on which it begins
     * @param names what the file's columns are called, in their order
     */
    public RecordReader reader(
            InputStream piece,
            String source,
            long line,
            List<String> names,
            TableDefinition table,
            List<String> columns,
            Rejects rejects) {
        CsvInput input = new CsvInput(piece, source, table.name().toString(), dialect, line);
        int[] match = columns.stream().mapToInt(names::indexOf).toArray();
        return new CsvReader(input, table.withColumns(columns), match, names, rejects);
    }

    /**
     * Where a file can be cut: between records, wherever line ends inside of values are.
     *
     * @param in the file's bytes; closed
     * @param bytes how many bytes a piece has, about
     * @throws org.orderlyferry.problem.FerryException if the file isn't of this format
     */
    public List<FilePiece> cut(InputStream in, String source, long bytes) {
        List<FilePiece> pieces = new ArrayList<>();
        FilePiece[] last = {FilePiece.ALL};
        try (CsvInput input = new CsvInput(in, source, "", dialect)) {
            RecordBatch batch = new RecordBatch();
            boolean more = true;
            while (more) {
                more = input.fill(batch, Integer.MAX_VALUE, (record, data) -> {
                    long place = input.place();
                    // not in front of the first record: a byte-order mark is no piece
                    if (input.scanner().line() > 1 && place - last[0].from() >= bytes) {
                        pieces.add(new FilePiece(0, last[0].from(), place, last[0].line()));
                        last[0] = new FilePiece(0, place, -1, record.line());
                    }
                });
            }
        }
        pieces.add(last[0]);
        return pieces;
    }

    /**
     * The names in a file's header record.
     *
     * @throws org.orderlyferry.problem.MalformedFileException if the file is empty
     */
    public List<String> header(InputStream in, String source) {
        try (CsvInput input = new CsvInput(in, source, "", dialect)) {
            return input.header();
        }
    }

    @Override
    public RecordWriter writer(OutputStream out, TableDefinition table) {
        return new CsvWriter(out, dialect, table);
    }
}
