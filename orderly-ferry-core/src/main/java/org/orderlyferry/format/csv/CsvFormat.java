package org.orderlyferry.format.csv;

import java.io.InputStream;
import java.io.OutputStream;
import java.util.List;
import org.orderlyferry.format.ColumnMatch;
import org.orderlyferry.format.Format;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;

/**
 * Delimited text in a dialect.
 *
 * @param dialect the settings
 */
public record CsvFormat(CsvDialect dialect) implements Format {

    @Override
    public String name() {
        return "CSV";
    }

    @Override
    public String extension() {
        return "csv";
    }

    @Override
    public String mediaType() {
        return "text/csv";
    }

    @Override
    public RecordReader reader(InputStream in, String source, TableDefinition table, List<String> columns) {
        CsvInput input = new CsvInput(in, source, table.name().toString(), dialect);
        try {
            List<String> names = dialect.header() ? input.header() : table.columnNames();
            ColumnMatch.check(names, table.columnNames(), input.origin(1));
            int[] match = columns.stream().mapToInt(names::indexOf).toArray();
            return new CsvReader(input, table.withColumns(columns), match, names);
        } catch (RuntimeException e) {
            input.close();
            throw e;
        }
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
