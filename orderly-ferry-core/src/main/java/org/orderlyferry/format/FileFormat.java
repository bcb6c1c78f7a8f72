package org.orderlyferry.format;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/**
 * A kind of file that records live in. Found by {@link java.util.ServiceLoader}, so that a new kind needs no change
 * anywhere else. Immutable, for use by any number of threads.
 */
@NullMarked
public interface FileFormat {

    /** What people call it, for example {@code JSON lines}. */
    String name();

    /** What its files' names end in, without the point; the usual one first. */
    List<String> endings();

    /** Whether a file's first bytes are of this kind, whatever it is called. */
    boolean looksLike(byte[] head);

    /**
     * A folder that is one file of this kind, with its parts in it; empty for any other folder.
     *
     * @param file opens a file in it
     * @throws IOException if it can't be read
     */
    default Optional<FileSource> wholeFolder(Path folder, Function<Path, FileSource> file) throws IOException {
        return Optional.empty();
    }

    /** Whether files of another kind are read in the same way, so that both may hold one table's records. */
    default boolean isLike(FileFormat other) {
        return name().equals(other.name());
    }

    /** What it keeps of records and definitions. */
    Keeps keeps();

    /** What can be told about a file's form beside its name. */
    List<Setting> settings();

    /**
     * Sees to it that settings can be used.
     *
     * @throws org.orderlyferry.problem.UsageException if they can't
     */
    default void check(FileSettings settings) {
        settings.mustBeKnown(this);
    }

    /**
     * The tables of a file, as far as the file itself tells.
     *
     * @throws org.orderlyferry.problem.FerryException if the file isn't of this kind
     */
    List<Outline> outline(FileSource file, FileSettings settings);

    /**
     * Reads records of a table.
     *
     * @param table the table and all the columns that the file has of it
     * @param columns which columns to give, in this order
     * @param rejects hears of records that aren't whole
     */
    RecordReader read(
            FileSource file, TableDefinition table, List<String> columns, FileSettings settings, Rejects rejects);

    /**
     * Cuts a file into pieces of whole records, of which each can be read alone; reads all of it to find out where records
     * begin. What can't be cut is one piece.
     *
     * @param bytes how many bytes a piece has, about
     */
    default List<FilePiece> cut(FileSource file, FileSettings settings, long bytes) {
        return List.of(FilePiece.ALL);
    }

    /**
     * Reads the records of a piece: all of a file, or what {@link #cut} has given.
     *
     * @param columns which columns to give, in this order
     * @param rejects hears of records that aren't whole
     */
    default RecordReader read(
            FileSource file,
            FilePiece piece,
            TableDefinition table,
            List<String> columns,
            FileSettings settings,
            Rejects rejects) {
        return piece.isWhole()
                ? read(file, table, columns, settings, rejects)
                : readPiece(file, piece, table, columns, settings, rejects);
    }

    /** Reads the records of less than a whole file, as {@link #cut} has cut it. */
    default RecordReader readPiece(
            FileSource file,
            FilePiece piece,
            TableDefinition table,
            List<String> columns,
            FileSettings settings,
            Rejects rejects) {
        throw new IllegalArgumentException(name() + " isn't cut");
    }

    /**
     * Writes a file.
     *
     * @param out closed with the writer
     * @param shown the file, for messages
     * @param tables all that the file is to hold, in the order in which they come
     */
    TablesWriter write(OutputStream out, String shown, List<TableDefinition> tables, FileSettings settings);

    /** Whether one file can hold several tables. */
    default boolean holdsSeveralTables() {
        return false;
    }

    /**
     * The names of a file's tables, where it tells them without being read from one end to the other; empty where it doesn't. Whoever
     * has definitions from elsewhere learns in this way what else is in the file.
     */
    default List<TableName> tablesTold(FileSource file, FileSettings settings) {
        return List.of();
    }

    /** The settings, together with what a file itself tells of its form where they say nothing. */
    default FileSettings complete(FileSource file, FileSettings settings) {
        return settings;
    }

    /** The headings of each of a file's columns, in their order, where a file may have other names for them than a description. */
    default List<List<String>> headings(FileSource file, FileSettings settings) {
        return List.of();
    }

    /** Whether a file's definitions stand beside it, since it has no way to hold them all itself. */
    default boolean isDescribedBeside() {
        return true;
    }

    /** How values are written, as settings tell it for all columns. */
    default List<ValueStyle> toldStyles(FileSettings settings) {
        return List.of();
    }

    /** How the values of columns are written that aren't written as their value text. */
    default Map<String, ValueStyle> styles(TableDefinition table, FileSettings settings) {
        return Map.of();
    }

    /** Files of a standard of its own that belong beside a file of these tables, such as a schema. */
    default List<SideFile> sideFiles(String fileName, List<TableDefinition> tables, FileSettings settings) {
        return List.of();
    }
}
