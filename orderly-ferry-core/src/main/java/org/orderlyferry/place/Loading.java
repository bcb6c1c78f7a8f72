package org.orderlyferry.place;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.apiguardian.api.API;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Screen;

/**
 * Tables on their way into a target. It is begun, its parts are written, it is settled and finished. Until
 * {@link #finish} has returned, closing puts the target back as it was, unless the load was suspended. Only
 * {@link #writer} may be called by several threads at once.
 */
public interface Loading extends AutoCloseable {

    /**
     * A writer for one part of a table's records, with the columns of its definition. They count once it is finished, all
     * of them at once. No more are open at a time than {@link TargetPlace#mostLanes()}.
     *
     * @param receipt what the target is to keep together with the records, where it can: asked for once, when all of them
     *     were written and before they count
     */
    RecordWriter writer(TablePart part, Supplier<String> receipt);

    /**
     * Takes records of a part out that the target can't hold, where somebody wants to go on without them. Asked for once for each
     * writer, after it was given; it may bring records to where they belong itself, to hear what the target says of each.
     *
     * @return empty where the target holds all that its definition says
     */
    default Optional<Screen> screen(TablePart part) {
        return Optional.empty();
    }

    /**
     * The receipts of parts that are in already, by the numbers of their tasks: of a load of the same plan that was cut
     * short.
     */
    default Map<Integer, String> receipts() {
        return Map.of();
    }

    /** The receipt of one part, if it is in; others may write parts at the same time. */
    default Optional<String> receipt(int task) {
        return Optional.ofNullable(receipts().get(task));
    }

    /**
     * Takes a table that can't be read out of the load, with what was written of it, or still is. May be called by any
     * thread.
     *
     * @return false if the target can't do without it
     */
    default boolean leaveOut(TableName table) {
        return false;
    }

    /**
     * Does what can be done once all records are in, and before anybody sees them: adds keys and indexes. Another load of
     * the same plan may go on from there if it is cut short.
     */
    default void settle() {
        // where it is one with the end
    }

    /**
     * Has records go out of tables that stay, together with the end of the load, as far as the target can do that; told once,
     * before {@link #settle}. {@link #deleted} tells of which tables it did.
     */
    default void delete(List<Removal> removals) {
        // what can't go with a load goes by itself
    }

    /** How many records went out of each table that they could go out of with the load. Complete after {@link #finish}. */
    default Map<TableName, Long> deleted() {
        return Map.of();
    }

    /**
     * Has tables that are replaced kept by the target, by a name under which {@link KeptTables} know them; told once, before
     * {@link #finish}.
     *
     * @throws UnsupportedOperationException if the target can't
     */
    @API(status = API.Status.INTERNAL)
    default void keepReplaced(String name) {
        throw new UnsupportedOperationException("this kind of place keeps no tables that are replaced");
    }

    /** Adds what is missing, lets the tables be seen, and makes it all last. */
    void finish(Written written);

    /**
     * Lets go of the load, and leaves everything as it is, for a load of the same plan to go on with.
     *
     * @throws UnsupportedOperationException if the target can't
     */
    default void suspend() {
        throw new UnsupportedOperationException("a load into this kind of place can't be left and gone on with");
    }

    /** What a merge did to a table that was there; empty for other modes and tables. Complete after {@link #finish}. */
    Optional<Merged> merged(TableName table);

    /** Whether a load that was only tried found values that the target would refuse. */
    default boolean isRefused() {
        return false;
    }

    /** What arrives in another form than it left. Complete after {@link #finish}. */
    List<Finding> findings();

    /** What the target can't take. */
    List<LeftBehind> leftBehind();

    /**
     * Of what the source says that can't be carried, what is left behind here, too: another server of the same system has its
     * types.
     */
    default List<LeftBehind> lacking(List<LeftBehind> source) {
        return source;
    }

    @Override
    void close();
}
