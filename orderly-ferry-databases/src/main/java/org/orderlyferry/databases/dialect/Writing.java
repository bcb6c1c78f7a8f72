package org.orderlyferry.databases.dialect;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.TextForms;
import org.orderlyferry.record.RecordWriter;

/** How tables and records are put into a system. Immutable, for use by any number of threads. */
public interface Writing extends Defining {

    /**
     * A writer for a table that is there. What it has written is part of the session's transaction, and is committed by
     * whoever asked for it; in a system that holds a large transaction badly, the writer commits some of it before.
     *
     * @param into the table, with the columns that records have; generated ones are left out
     * @param shown the table's name for messages
     */
    RecordWriter writer(Session session, TableDefinition into, TableName shown) throws SQLException;

    /**
     * A column of a table that is there already, as it takes what comes: a type of the system's own may hold more than the
     * logical type that it is read as.
     *
     * @param comes the type of what is loaded
     */
    default ColumnDefinition taking(ColumnDefinition held, LogicalType comes) {
        return held;
    }

    /**
     * Types that a table needs and that aren't there, each with what takes it away again; the definition is one that was
     * adapted.
     */
    default List<Settling.Step> typeSteps(Session session, TableDefinition table) throws SQLException {
        return List.of();
    }

    /** How many characters a text has, for a text of ours. */
    default String lengthOf(String text) {
        return "CHAR_LENGTH(" + text + ")";
    }

    /** Takes all records out of a table on its way, once nobody else is at it any more. */
    default String emptying(Session session, TableName table) {
        return "TRUNCATE TABLE " + session.dialect().quote(table);
    }

    /**
     * How CREATE TABLE begins for a table that only its session sees, where a rollback doesn't undo definitions; empty where
     * it does.
     */
    default Optional<String> temporaryTable() {
        return Optional.empty();
    }

    /**
     * How CREATE TABLE begins for a table that only its session sees, that may have every kind of index, and that a rollback
     * takes away; empty where there is none.
     */
    default Optional<String> trialTable() {
        return Optional.empty();
    }

    /** Whether a rollback takes away what was made, where that is all that is done: then definitions can be tried. */
    default boolean forgetsTrials(Session session) throws SQLException {
        return rollsBackDefinitions();
    }

    /** Takes a table away that only its session sees. */
    default String dropTemporary(String quoted) {
        return "DROP TABLE " + quoted;
    }

    /** Statements for one table's references, after all tables' keys are there. */
    List<String> referenceStatements(TableDefinition table);

    /** Finds a record whose reference doesn't hold, where adding references doesn't do so; as a sentence. */
    default Optional<String> brokenReference(Session session, TableDefinition table, TableName shown)
            throws SQLException {
        return Optional.empty();
    }

    /** Statements that set a table's counters past the highest value that it holds. */
    List<String> counterStatements(Session session, TableDefinition table) throws SQLException;

    /** Types that extensions have brought to this server. */
    default FurtherTypes furtherTypes(Session session) throws SQLException {
        return FurtherTypes.NONE;
    }

    /**
     * A collation of the system's as the server has it.
     *
     * @param collation as it stands behind COLLATE
     * @return what is to stand there; empty where the server hasn't that collation
     */
    default Optional<String> collation(Session session, String collation) throws SQLException {
        return Optional.of(collation);
    }

    /**
     * The character set that texts are held in, where it has fewer characters than Unicode, and which is known.
     *
     * @param collation the column's, by the system's own name; empty where nothing special is declared
     */
    default Optional<String> characterSet(Session session, String collation) throws SQLException {
        return Optional.empty();
    }

    /** What of texts such a character set can't hold. */
    default ValueLimit characters(Session session, String characterSet) throws SQLException {
        return ValueLimit.NONE;
    }

    /**
     * How texts of a column are the same to the system that aren't so character by character.
     *
     * @param asking gives a session by which the system can be asked, the same at each call; it isn't to be closed
     * @return empty where that isn't known
     */
    @API(status = API.Status.INTERNAL)
    default Optional<TextForms> textForms(Supplier<Session> asking, ColumnDefinition column) throws SQLException {
        return Optional.empty();
    }

    /**
     * From how many bytes on an entry of a key or an index may be too long, so that only trying tells; 0 where none is, or
     * where the definition is refused.
     */
    default int bytesOfALongKey() {
        return 0;
    }

    /** How tables that were loaded beside others take their place. */
    Settling settling();

    /** Whether definitions are part of transactions, so that a rollback undoes them. */
    boolean rollsBackDefinitions();

    /**
     * Whether a load, with all its definitions, is one transaction of one connection. Elsewhere tables are loaded under
     * other names, and a ledger says what to undo if the load is killed.
     */
    default boolean isOneTransaction() {
        return false;
    }

    /** See {@link org.orderlyferry.place.TargetPlace#ordersByKey}. */
    default boolean ordersByKey() {
        return true;
    }

    /** How many writers can work at once, each with a connection of its own; 1 where all share the load's. */
    default int mostLanes() {
        return 1;
    }

    /** What a person should know about the way that records take, such as that the fast one is closed. */
    default Optional<String> laneNotice(Session session) throws SQLException {
        return Optional.empty();
    }

    /** Keeps other loads away for as long as the session lasts; false if one is under way. */
    default boolean lock(Session session) throws SQLException {
        return true;
    }

    /**
     * Who owns a table, if that is somebody who may not do what the connection's user may.
     *
     * @return empty where the owner has the user's rights, and where tables have no owners
     */
    default Optional<String> strangeOwner(Session session, TableName table) throws SQLException {
        return Optional.empty();
    }

    /** The schemas that are there; empty where there are none at all. */
    default List<String> schemas(Session session) throws SQLException {
        return List.of();
    }
}
