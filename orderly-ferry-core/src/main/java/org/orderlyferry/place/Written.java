package org.orderlyferry.place;

import java.util.List;
import java.util.Set;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.tally.Tally;

/**
 * What a load has come to before its end.
 *
 * @param parts all parts of all tables, in the order of their tasks
 * @param leftBehind what the source has that couldn't be carried, for targets that keep a note of it
 * @param leftOut tables that couldn't be read to their end, and that the target is to have nothing of
 */
public record Written(List<Part> parts, List<LeftBehind> leftBehind, Set<TableName> leftOut) {

    /** No parts. */
    public static final Written NOTHING = new Written(List.of(), List.of(), Set.of());

    public Written {
        parts = List.copyOf(parts);
        leftBehind = List.copyOf(leftBehind);
        leftOut = Set.copyOf(leftOut);
    }

    /** One part, with the tally of its records. */
    public record Part(TablePart part, Tally tally) {}
}
