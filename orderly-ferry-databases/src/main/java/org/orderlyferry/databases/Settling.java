package org.orderlyferry.databases;

import java.sql.SQLException;
import java.util.List;
import java.util.stream.Collectors;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;

/**
 * How tables that were loaded beside others take their place, and how records are added to tables that stay. Immutable,
 * for use by any number of threads.
 */
public interface Settling {

    /**
     * A statement, and the one that undoes it.
     *
     * @param undo empty where a rollback, or another step's undoing, does it; it does no harm where there is nothing to
     *     undo
     */
    record Step(String sql, String undo) {
        public static Step of(String sql) {
            return new Step(sql, "");
        }
    }

    /**
     * What depends on a table so that it can't be replaced, as sentences.
     *
     * @param comes the table that is to take its place
     */
    default List<String> obstacles(Session session, TableDefinition there, TableDefinition comes) throws SQLException {
        return List.of();
    }

    /** Runs a statement, and tells how many rows it changed itself, apart from those that triggers did. */
    default long changed(Session session, String sql) throws SQLException {
        return session.update(sql);
    }

    /**
     * Adds records of a loaded table to the one that stays, and tells how many.
     *
     * @param where which ones, of {@code s}, with a blank in front; empty for all
     */
    default long insert(Session session, Arrival arrival, List<String> columns, String where) throws SQLException {
        Dialect dialect = session.dialect();
        String names = columns.stream().map(dialect::quote).collect(Collectors.joining(", "));
        String values = columns.stream().map(c -> "s." + dialect.quote(c)).collect(Collectors.joining(", "));
        return changed(
                session,
                "INSERT INTO " + dialect.quote(arrival.name()) + " (" + names + ")"
                        + dialect.writing().insertClause(arrival.table()) + " SELECT " + values + " FROM "
                        + dialect.quote(arrival.loaded()) + " s" + where);
    }

    /** The table under the name, and with the names of keys, that it has while it is loaded. */
    TableDefinition whileLoaded(Arrival arrival);

    /** Steps by which new tables get their names; in the order given, in one transaction where the system has that. */
    List<Step> takePlaces(Session session, List<Arrival> arrivals) throws SQLException;

    /** Steps before records are added to tables that stay, so that their references needn't hold in between. */
    default List<Step> loosen(Session session, List<Arrival> arrivals) throws SQLException {
        return List.of();
    }

    /** Statements after records were added to tables that stay, in the same transaction where the system has that. */
    default List<String> tighten(Session session, List<Arrival> arrivals) throws SQLException {
        return List.of();
    }

    /** Statements to run when nothing needs to be undone any more; each does no harm if it is run again. */
    default List<String> leftovers(List<Arrival> arrivals) {
        return List.of();
    }

    /** Whether two values of a column, each given as SQL, differ; null equals null. */
    default String differ(ColumnDefinition column, String one, String other) {
        return one + " IS DISTINCT FROM " + other;
    }

    /**
     * An UPDATE of the table that is there, by the one that was loaded.
     *
     * @param keys which records belong together, of {@code t}, the one that is there, and {@code s}, the loaded one
     * @param differ which of them have changed
     */
    String update(Arrival arrival, String keys, String differ, List<ColumnDefinition> set);
}
