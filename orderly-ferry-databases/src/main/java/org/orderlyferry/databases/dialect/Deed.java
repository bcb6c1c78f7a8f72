package org.orderlyferry.databases.dialect;

import java.util.List;
import java.util.Map;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.TableName;

/**
 * What a step of a load does to a target, as facts. They are kept there in case the load is killed, and may have been
 * put there by somebody else: so they hold names and never SQL, and a dialect derives from them, and from what it finds
 * in the database, what is to be done.
 */
public sealed interface Deed {

    /** A schema that wasn't there. */
    record SchemaMade(String schema) implements Deed {}

    /** A type that wasn't there. */
    record TypeMade(String type) implements Deed {}

    /** A table under a name of ours. */
    record TableMade(TableName table) implements Deed {}

    /** Tables that got other names at once, each {@code from} with its {@code to}. */
    record Renamed(List<TableName> from, List<TableName> to) implements Deed {}

    /** A key or a check that got another name. */
    record ConstraintRenamed(TableName table, String from, String to) implements Deed {}

    /** An index that got another name. */
    record IndexRenamed(TableName table, String from, String to) implements Deed {}

    /** A reference that wasn't there. */
    record ReferenceAdded(TableName table, String name) implements Deed {}

    /** A reference that was taken off a table. */
    record ReferenceDropped(TableName table, ForeignKey key) implements Deed {}

    /** Views whose tables were exchanged. */
    record ViewsTouched() implements Deed {}

    /** A trigger that went from the table set aside to the new one; meanwhile its text is kept under another name. */
    record TriggerMoved(String trigger, String kept, TableName from) implements Deed {}

    /** References that aren't checked for a while. */
    record ChecksOff(TableName table) implements Deed {}

    /**
     * Counters that may stand before the highest value.
     *
     * @param next what they must give next at least, by their columns
     */
    record CounterBehind(TableName table, Map<String, Long> next) implements Deed {
        public CounterBehind {
            next = Map.copyOf(next);
        }
    }

    /**
     * All tables are made that a plan needs, and from here on its parts come, each with its receipt.
     *
     * @param plan the plan's name
     */
    record Planned(String plan) implements Deed {}

    /** All parts are in, and keys and indexes are being added. Once anything else follows, another load can't go on. */
    record Settled() implements Deed {}

    /**
     * Of the statements that add keys and indexes to a table on its way, this one is under way. Where definitions roll back,
     * it is done when this can be read.
     */
    record KeyBegun(TableName table, int number) implements Deed {}
}
