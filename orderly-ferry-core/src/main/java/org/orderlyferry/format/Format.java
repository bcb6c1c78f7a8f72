package org.orderlyferry.format;

import java.io.InputStream;
import java.io.OutputStream;
import java.util.List;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;

/** A way to hold records in a file, with its settings. Immutable, for use by any number of threads. */
public interface Format {

    /** What people call it, for example {@code CSV}. */
    String name();

    /** What its files' names end in, without the point. */
    String extension();

    /** Its IANA media type. */
    String mediaType();

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
    RecordReader reader(InputStream in, String source, TableDefinition table, List<String> columns);

    /**
     * Writes records.
     *
     * @param out where to; closed with the writer
     * @param table the table and its columns, in the order in which batches hold their values
     */
    RecordWriter writer(OutputStream out, TableDefinition table);
}
