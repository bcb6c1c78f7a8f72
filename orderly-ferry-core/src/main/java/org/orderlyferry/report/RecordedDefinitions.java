package org.orderlyferry.report;

import java.util.List;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.reconcile.ComparedDefinitions;

/**
 * What comparing definitions came to.
 *
 * @param tables how many tables were compared
 * @param equal whether the target has all that it could have
 * @param leftBehind what no load carries, ticked off
 */
@NullMarked
public record RecordedDefinitions(
        int tables, boolean equal, List<RecordedDefinition> differences, List<RecordedTick> leftBehind) {
    public RecordedDefinitions {
        differences = Bounded.list(differences);
        leftBehind = Bounded.list(leftBehind);
    }

    static RecordedDefinitions of(ComparedDefinitions compared) {
        return new RecordedDefinitions(
                compared.tables().size(),
                compared.areEqual(),
                compared.differences().stream().map(RecordedDefinition::of).toList(),
                compared.leftBehind().stream().map(RecordedTick::of).toList());
    }
}
