package org.orderlyferry.place;

import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** A place that can take tables. */
public interface TargetPlace extends Place {

    /**
     * Makes ready for tables to be loaded.
     *
     * @param tables in the order in which they are to be loaded
     * @param mode what is done with tables that are there already
     * @throws org.orderlyferry.problem.UsageException if what is there doesn't allow it; nothing has been changed then
     */
    default Loading begin(List<TableDefinition> tables, LoadMode mode) {
        return begin(tables, LoadModes.all(mode), "");
    }

    /**
     * Makes ready for tables to be loaded; or goes on with a load that was suspended or killed, if it was of the same plan.
     * A load of another plan that was cut short is undone first.
     *
     * @param modes what is done with tables that are there already
     * @param plan names the plan, so that another load of the same name does the very same; empty for a load that nothing
     *     goes on with
     */
    Loading begin(List<TableDefinition> tables, LoadModes modes, String plan);

    /**
     * Writes parts for a load that was begun elsewhere and is suspended there, beside others that do so; it isn't to be
     * finished by this one.
     *
     * @throws org.orderlyferry.problem.UsageException if there is no such load
     * @throws UnsupportedOperationException if the target can't
     */
    default Loading join(List<TableDefinition> tables, LoadModes modes, String plan) {
        throw new UnsupportedOperationException("a load into this kind of place can't be left and gone on with");
    }

    /**
     * Does as {@link #begin} does, as far as that is possible without changing anything: what can't be carried is
     * noted, and the writers only look whether each value can be held.
     */
    Loading rehearse(List<TableDefinition> tables, LoadModes modes);

    /**
     * Whether its tables' keys and references hold for all records, so that a load with records that break them can't be
     * finished.
     */
    default boolean keepsIntegrity() {
        return false;
    }

    /**
     * How a column of it takes texts for the same.
     *
     * @return empty where that isn't known
     */
    @API(status = API.Status.INTERNAL)
    default Optional<TextForms> textForms(ColumnDefinition column) {
        return Optional.empty();
    }

    /**
     * Whether it keeps the records of a table in the order of their key, or the key beside them while they come: then it takes
     * them with less work, the nearer those that follow each other by it come to each other.
     */
    default boolean ordersByKey() {
        return false;
    }

    /** How many writers can work at once at most. */
    default int mostLanes() {
        return 1;
    }

    /**
     * Puts right what a load that was killed has left: keeps it if it was of a plan, and else undoes it or brings it to its
     * end.
     *
     * @param plan names the plan of a load that is to go on; empty for none
     */
    default Leftover clear(String plan) {
        return Leftover.NONE;
    }

    /**
     * Takes tables away, with all that is in them; those that aren't there are passed over. If tables that stay refer to
     * them, nothing is changed.
     *
     * @throws UnsupportedOperationException if the target can't
     */
    default void remove(List<TableName> tables) {
        throw new UnsupportedOperationException("tables can't be taken out of this kind of place");
    }

    /**
     * Runs one statement of a person's own, and makes it last.
     *
     * @throws UnsupportedOperationException if the target can't
     */
    default void execute(String statement) {
        throw new UnsupportedOperationException("this kind of place runs no statements");
    }

    /**
     * A view that shows what stands inside of documents, in the target's own SQL. Nothing is changed.
     *
     * @throws UnsupportedOperationException if the target has no such views
     */
    default ViewStatements statements(DocumentView view) {
        throw new UnsupportedOperationException("this kind of place has no views of what stands in documents");
    }

    /**
     * How many values that aren't null a view would show in each of its columns, in their order.
     *
     * @throws org.orderlyferry.problem.PlaceException if one of them can't be read as its type
     */
    default List<Long> count(DocumentView view) {
        throw new UnsupportedOperationException("this kind of place has no views of what stands in documents");
    }

    /** What the target calls a type, as far as it has just one name for it; empty where it has no types of its own. */
    default Optional<String> ownType(LogicalType type) {
        return Optional.empty();
    }

    /**
     * Takes records out of a table; those that aren't there are passed over. All of them go, or none.
     *
     * @return how many records went
     * @throws UnsupportedOperationException if the target can't
     */
    default long delete(Removal removal) {
        throw new UnsupportedOperationException("records can't be taken out of this kind of place");
    }

    /** Whether records can go together with the end of a load, so that whoever looks sees all of it or nothing. */
    default boolean deletesWithLoads() {
        return false;
    }

    /** Tables that were replaced and are kept; empty where the target keeps none. */
    @API(status = API.Status.INTERNAL)
    default Optional<KeptTables> keptTables() {
        return Optional.empty();
    }
}
