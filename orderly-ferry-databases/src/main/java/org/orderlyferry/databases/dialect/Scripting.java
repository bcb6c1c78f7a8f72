package org.orderlyferry.databases.dialect;

import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/** How a system's definitions and records stand in a script of SQL. Immutable, for use by any number of threads. */
public interface Scripting {

    /** Statements in front of all others; they begin a transaction. */
    List<String> opening();

    /** Statements behind all others; they end the transaction. */
    List<String> closing();

    /** What parts a script into batches, for the shell that sends it to the system. */
    enum Batches {
        /** Each statement ends with a semicolon, or with what the script says. */
        NONE,
        /** A line that holds no more than GO, and possibly how often; a semicolon may be missing elsewhere. */
        GO,
        /** A line that holds no more than a slash; a routine ends nowhere else. */
        SLASH
    }

    /** What parts its scripts. */
    default Batches batches() {
        return Batches.NONE;
    }

    /**
     * What stands behind a statement that is written, without the end of the line.
     *
     * @param inTransaction whether it is one of those between the opening and the closing ones
     */
    default String end(boolean inTransaction) {
        return ";";
    }

    /** What stands between the values of a record, and between the names of columns. */
    default String separator() {
        return ", ";
    }

    /** How many records a statement can bring at most. */
    default int mostRows() {
        return Integer.MAX_VALUE;
    }

    /** Statements in front of a table's records. */
    default List<String> beforeRecords(TableDefinition table) {
        return List.of();
    }

    /** Statements behind a table's records. */
    default List<String> afterRecords(TableDefinition table) {
        return List.of();
    }

    /** Makes a schema where it isn't there; nothing where a script can't. */
    default Optional<String> schema(String quoted) {
        return Optional.of("CREATE SCHEMA IF NOT EXISTS " + quoted);
    }

    /** A name that stands without quotes, as the system takes it: most turn its letters to one case. */
    default String folded(String name) {
        return name;
    }

    /** Types that a table needs. */
    default List<String> types(TableDefinition table) {
        return List.of();
    }

    /**
     * A statement of definitions as a script holds it: it was written for a session of ours, in which a backslash in a
     * string is one.
     */
    default String definition(String sql) {
        return sql;
    }

    /** A value, which is no binary one, as a literal of a column. */
    String literal(ColumnDefinition column, String value);

    /**
     * What a text stands for in a column of bytes.
     *
     * @param text byte for character
     * @throws IllegalArgumentException if it stands for none
     */
    default String bytesOf(String text) {
        return text;
    }

    /** Bytes as a literal. */
    default String bytes(byte[] value) {
        return "X'" + HexFormat.of().formatHex(value) + "'";
    }

    /**
     * A value in the lines of the system's own bulk form, where a script may hold such lines.
     *
     * @param value value text; of a binary value, its hexadecimal digits
     */
    default Optional<String> bulkValue(ColumnDefinition column, String value) {
        return Optional.empty();
    }

    /** References between tables that are there. */
    List<String> references(TableDefinition table);

    /** Sets a counter. */
    List<String> counter(TableDefinition table, ColumnDefinition column, long next);

    /** Whether a null for a column that counts is left to its counter. */
    default boolean countsNulls() {
        return false;
    }

    /** Whether a backslash in a string stands for something else. */
    default boolean hasBackslashes() {
        return false;
    }

    /** What the first lines of a script by this system's own tools hold. */
    List<String> marks();

    /**
     * Words that stand in this system's SQL and in no other's that is read here, for scripts that no tool has marked: regular
     * expressions, in any case, for text without strings and comments.
     */
    default List<String> signs() {
        return List.of();
    }

    /** A type as a script writes it, in the words that the system's own catalogue has for it. */
    String ownType(String written);

    /** What a number stands for that the system's own tools wrote. */
    default String number(String written, LogicalType type) {
        return written;
    }

    /**
     * How texts are compared, in the words that the system's own catalogue has for it; empty for what is its default.
     *
     * @param path the name behind COLLATE, with its schema
     * @param written the same as it stands in the script
     */
    default String collation(List<String> path, String written) {
        return path.get(path.size() - 1);
    }

    /** How texts of a character set are compared of which no more is said. */
    default String collationOfSet(String set) {
        return "";
    }

    /** How texts are compared that are to be so by their bytes, where nothing would have them compared by a collation. */
    default String binaryCollation(String collation) {
        return collation;
    }

    /** Whether texts of one of the system's own types are compared by a collation. */
    default boolean isCompared(String ownType) {
        return true;
    }

    /** What a default in CREATE TABLE stands for. */
    Optional<ColumnDefault> defaultValue(String sql, LogicalType type);
}
