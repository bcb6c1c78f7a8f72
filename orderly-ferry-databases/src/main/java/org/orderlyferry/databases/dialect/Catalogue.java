package org.orderlyferry.databases.dialect;

import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** The definitions that a database holds, read from its own catalogue. */
public interface Catalogue {

    /** The tables of users, not of the system. */
    List<TableName> tables() throws SQLException;

    /** Whether there is such a table: asked of one, where a system takes its time to tell of thousands. */
    default boolean has(TableName table) throws SQLException {
        return tables().contains(table);
    }

    /** A table's definition; the table is known to be there. */
    TableDefinition define(TableName table) throws SQLException;

    /**
     * Tells by which name the database has, or would have, a table of some name: a system may find it by other letters than it
     * was made with, or keep small ones.
     */
    default UnaryOperator<TableName> held() throws SQLException {
        return name -> name;
    }

    /** What else has names among which no table can have one, such as views: what it is, by its name. */
    default Map<TableName, String> otherNames() throws SQLException {
        return Map.of();
    }

    /**
     * Whether something of the database's own, such as a trigger, may change records that come to a table before the table's
     * checks look at them; so it is held wherever that can't be known.
     */
    default boolean changesWhatComes(TableName table) throws SQLException {
        return true;
    }

    /** A table among those that are there, whatever the case of its letters. */
    static Optional<TableName> alike(List<TableName> there, TableName name) {
        return there.stream()
                .filter(t -> t.schema().equals(name.schema()) && t.name().equalsIgnoreCase(name.name()))
                .findFirst();
    }

    /** Views, triggers and whatever else isn't carried. */
    List<LeftBehind> leftBehind() throws SQLException;
}
