package org.orderlyferry.format;

import java.io.OutputStream;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordWriter;

/** A way to write records of one table to a file, with its settings. Immutable, for use by any number of threads. */
@API(status = API.Status.INTERNAL)
public interface Format {

    /** What people call it, for example {@code JSON lines}. */
    String name();

    /**
     * Writes records.
     *
     * @param out where to; closed with the writer
     * @param table the table and its columns, in the order in which batches hold their values
     */
    RecordWriter writer(OutputStream out, TableDefinition table);
}
