package org.orderlyferry.databases.dialect;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.orderlyferry.model.Key;
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
     * Tables that refer to one of some tables. Where a system can't be asked for them at once, it is all tables: who asks has
     * to look at their references anyway.
     */
    default List<TableName> referrers(Set<TableName> to) throws SQLException {
        return to.isEmpty() ? List.of() : tables();
    }

    /** The names that the keys and indexes of each table have, which a schema or a database may have but once. */
    default Map<TableName, List<String>> indexNames() throws SQLException {
        Map<TableName, List<String>> names = new LinkedHashMap<>();
        for (TableName table : tables()) {
            TableDefinition definition = define(table);
            List<String> its = new ArrayList<>();
            definition.primaryKey().map(Key::name).ifPresent(its::add);
            definition.uniqueKeys().forEach(k -> its.add(k.name()));
            definition.indexes().forEach(i -> its.add(i.name()));
            names.put(table, its);
        }
        return names;
    }

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
