package org.orderlyferry.file;

import java.util.List;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** A file's records as its format gives them; whatever a parser fails with is told as a fault of the file. */
record FileRecords(FileSource file, FileFormat format) {

    /** Reads all of a table. */
    RecordReader open(TableDefinition table, FileSettings how, Rejects hears) {
        return open(table, table.columnNames(), FilePiece.ALL, how, hears);
    }

    /** Reads some columns of a piece. */
    RecordReader open(TableDefinition table, List<String> columns, FilePiece piece, FileSettings how, Rejects hears) {
        try {
            return new LargeRecords(format.read(file, piece, table, columns, how, hears), file);
        } catch (FerryException e) {
            throw e;
        } catch (RuntimeException | StackOverflowError e) {
            throw LargeRecords.broken(table.name().toString(), file.shown(), 0, e);
        }
    }
}
