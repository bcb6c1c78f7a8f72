package org.orderlyferry.databases.dialect;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * The SQL of a system that its own driver connects to, which doesn't come along: what is known of the system beyond what drivers
 * tell, such as its catalogue, and statements for which ISO/IEC 9075-2 has no words. All else is asked of the driver. Immutable,
 * for use by any number of threads.
 */
@API(status = API.Status.INTERNAL)
public interface ConnectedSql extends SystemSql {

    /** What its driver calls the system ({@link java.sql.DatabaseMetaData#getDatabaseProductName}). */
    String product();

    /** What its driver's URLs begin with. */
    String urlPrefix();

    /**
     * The definitions that the database holds.
     *
     * @param schema the one in which a name without a schema is looked up
     */
    Catalogue catalogue(Connection connection, String schema);

    /**
     * Properties that the driver is given when it connects.
     *
     * @param known the names of those that it has
     */
    default Map<String, String> properties(Set<String> known, boolean write) {
        return Map.of();
    }

    /**
     * The level of isolation, of {@link Connection}'s, by which all tables are of one moment while others go on writing;
     * {@link Connection#TRANSACTION_NONE} where the database has none.
     */
    int momentLevel(Connection connection) throws SQLException;

    /** What lets a database have such a level that has none now; as the end of a sentence. */
    default String momentAdvice() {
        return "";
    }

    /**
     * How definitions are brought to what the system holds, where statements go through no shell and later loads go on with
     * what is made.
     */
    Adapting adapting(LoadNotes notes);

    /** Whether an error means that the user lacks a right, where the driver says so by a number of the system's alone. */
    boolean isDenied(SQLException error);

    /** How values are given to the driver that it would change on JDBC's own way; empty where that does. */
    default Optional<CellBinder> binder(LogicalType type) {
        return Optional.empty();
    }

    /**
     * What a null of a type is told to be.
     *
     * @param usual the code of {@link java.sql.Types} that is told elsewhere
     */
    default int nullCode(LogicalType type, int usual) {
        return usual;
    }

    /** What stands for a column in the list of a SELECT, where its name wouldn't give its values. */
    Optional<String> selected(ColumnDefinition column);

    /** How rows are counted, however many there are. */
    default String counting() {
        return "COUNT(*)";
    }

    /** How many records a table has by the system's own statistics; empty where they don't say. */
    OptionalLong estimate(Session session, TableName table, String schema) throws SQLException;

    /** Gives a table another name, in its schema. */
    String renaming(TableName from, String to);

    /** How many characters a text has, or more where the system counts otherwise. */
    String lengthOf(String text);

    /**
     * An UPDATE of a table by another one.
     *
     * @param keys which records belong together, of {@code t}, the one that is changed, and {@code s}, the other one
     * @param differ which of them have changed
     * @param columns those that get the other one's values
     */
    String update(TableName changed, TableName by, String keys, String differ, List<String> columns);

    /**
     * Why records can't be merged into a table that is there, as a sentence.
     *
     * @param columns those that the records bring
     */
    default Optional<String> unmergeable(TableDefinition there, List<ColumnDefinition> columns) {
        return Optional.empty();
    }

    /** Why a table that is there takes no records with the values that they have; as a sentence. */
    default Optional<String> refusing(TableDefinition there) {
        return Optional.empty();
    }
}
