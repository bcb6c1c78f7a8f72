package org.orderlyferry.databases.dialect;

import java.util.Optional;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;

/**
 * A table on its way into a database.
 *
 * @param source the table's name where it comes from
 * @param mode what is done with a table that is there
 * @param table as the system will hold it, under the name that it will have
 * @param loaded the name under which its records are loaded
 * @param there the table that is there already
 * @param kept where the table that it replaces is kept; empty where that goes
 */
public record Arrival(
        TableName source,
        LoadMode mode,
        TableDefinition table,
        TableName loaded,
        Optional<TableDefinition> there,
        Optional<TableName> kept) {

    /** One that keeps nothing of what it replaces. */
    public Arrival(
            TableName source, LoadMode mode, TableDefinition table, TableName loaded, Optional<TableDefinition> there) {
        this(source, mode, table, loaded, there, Optional.empty());
    }

    /** The same arrival of a table that looks otherwise. */
    public Arrival withTable(TableDefinition other) {
        return new Arrival(source, mode, other, loaded, there, kept);
    }

    /** The same arrival, which keeps the table that it replaces under another name. */
    public Arrival keeping(TableName name) {
        return new Arrival(source, mode, table, loaded, there, Optional.of(name));
    }

    /** The name that the table will have. */
    public TableName name() {
        return table.name();
    }

    /** Whether a new table comes, rather than records for one that stays. */
    public boolean isNewTable() {
        return mode == LoadMode.CREATE || mode == LoadMode.REPLACE;
    }

    /** Where a table that is replaced stands until the load has ended. */
    public TableName aside() {
        return new TableName(loaded.schema(), loaded.name() + "o");
    }
}
