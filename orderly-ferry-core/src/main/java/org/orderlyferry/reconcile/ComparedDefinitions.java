package org.orderlyferry.reconcile;

import java.util.List;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;

/**
 * What comparing definitions came to.
 *
 * @param tables those that both sides have, by the source's names
 * @param differences in the order of the tables
 * @param leftBehind what no load carries, ticked off
 */
@NullMarked
public record ComparedDefinitions(
        List<TableName> tables, List<DefinitionDifference> differences, List<TickedThing> leftBehind) {
    public ComparedDefinitions {
        tables = List.copyOf(tables);
        differences = List.copyOf(differences);
        leftBehind = List.copyOf(leftBehind);
    }

    /** Whether the target has all that it could have. */
    public boolean areEqual() {
        return differences.stream().allMatch(DefinitionDifference::forced);
    }
}
