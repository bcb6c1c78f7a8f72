package org.orderlyferry.place;

import java.util.Map;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;

/**
 * What a load does with tables that are there already, table by table. A plain value that can be written down and sent
 * elsewhere.
 *
 * @param most what is done with all tables but for the others
 * @param others what is done with some, by the names of the load's tables as {@link TableName#text()} writes them
 */
@NullMarked
public record LoadModes(LoadMode most, Map<String, LoadMode> others) {

    /** Refuses all tables that are there. */
    public static final LoadModes CREATE = all(LoadMode.CREATE);

    public LoadModes {
        others = Map.copyOf(others);
    }

    /** The same for all tables. */
    public static LoadModes all(LoadMode mode) {
        return new LoadModes(mode, Map.of());
    }

    /** Whether all tables are new, also those that take the places of others. */
    public boolean areNew() {
        return isNew(most) && others.values().stream().allMatch(LoadModes::isNew);
    }

    private static boolean isNew(LoadMode mode) {
        return mode == LoadMode.CREATE || mode == LoadMode.REPLACE;
    }

    /** What is done with a table. */
    public LoadMode of(TableName table) {
        return others.getOrDefault(table.text(), most);
    }
}
