package org.orderlyferry.databases;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;

/**
 * What differs between database systems. Found by {@link java.util.ServiceLoader}: a new system is one package and one
 * line of registration. Immutable, for use by any number of threads.
 */
public interface Dialect {

    /** The system's name, for example {@code SQLite}. */
    String system();

    /**
     * Connects, if the address is one of this system's: a JDBC URL with its prefix, or a database file of its kind.
     *
     * @param write whether the database is to be written to, and made where it isn't there yet; otherwise nothing in it
     *     can be changed
     * @throws SQLException if the database can't be reached
     */
    Optional<Connection> connect(PlaceAddress address, OpenOptions options, boolean write) throws SQLException;

    /** What a driver's error means for a person and what to do about it, where that is known. */
    Optional<String> explain(SQLException error);

    /** Prepares a connection that is read from: one snapshot for all tables, rows streamed. */
    void prepareReading(Connection connection) throws SQLException;

    /** The definitions that the database holds. */
    Catalogue catalogue(Connection connection) throws SQLException;

    /** A name in quotes. */
    String quote(String name);

    /** A table's name with its schema, in quotes. */
    default String quote(TableName table) {
        return table.schema().isEmpty() ? quote(table.name()) : quote(table.schema()) + "." + quote(table.name());
    }

    /** What stands for a column in the list of a SELECT. */
    default String selected(ColumnDefinition column) {
        return quote(column.name());
    }

    /** How values of a column are read. */
    CellReader reader(ColumnDefinition column);

    /** What a query's column is, by what the driver says of it. */
    LogicalType queried(java.sql.ResultSetMetaData columns, int index) throws SQLException;

    /** What stands for a value of a column in an INSERT. */
    default String placeholder(ColumnDefinition column) {
        return "?";
    }

    /** How values are given to a column; what arrives in another form is noted. */
    CellBinder binder(TableName table, ColumnDefinition column, LoadNotes notes);

    /** The rest of an INSERT between the columns and {@code VALUES}. */
    default String insertClause(TableDefinition table) {
        return "";
    }

    /**
     * The table as this system will hold it: names, keys and types that it can't hold are left out or changed, and
     * noted.
     */
    TableDefinition adapt(TableDefinition table, LoadNotes notes);

    /** Statements that make a table, ready to be loaded. */
    List<String> createStatements(TableDefinition table, LoadNotes notes);

    /** Statements for one table's keys and indexes, after its records are there. */
    List<String> keyStatements(TableDefinition table);

    /** Statements for one table's references, after all tables' keys are there. */
    List<String> referenceStatements(TableDefinition table);

    /** Sets a table's counters past the highest value that was loaded. */
    void advanceCounters(Connection connection, TableDefinition table) throws SQLException;

    /**
     * Whether CREATE TABLE is part of a transaction, so that a rollback undoes it. Where it isn't, tables of a load
     * that was killed are known by a ledger.
     */
    boolean rollsBackDefinitions();

    /** Sees to it that all references of the loaded tables hold, where adding them doesn't do so. */
    default void checkReferences(Connection connection, List<TableDefinition> tables) throws SQLException {}

    /** A table's size on disk in bytes, or -1 where the system doesn't tell. */
    long bytes(Connection connection, TableName table) throws SQLException;
}
