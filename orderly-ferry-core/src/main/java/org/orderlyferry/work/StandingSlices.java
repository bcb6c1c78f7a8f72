package org.orderlyferry.work;

import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;

/** Slices by where records stand, when work goes on that was cut short: records of a table that was written stand elsewhere. */
final class StandingSlices {

    private StandingSlices() {}

    /** Leaves the receipts of slices that, together with those that are missing, still hold each record once. */
    static void dropMoved(WorkPlan plan, Place source, Map<Integer, String> receipts) {
        Set<TableName> begun = plan.tasks().stream()
                .filter(t -> !receipts.containsKey(t.number()))
                .filter(StandingSlices::isStanding)
                .map(t -> t.part().table())
                .collect(Collectors.toSet());
        Set<TableName> moved = plan.tables().stream()
                .filter(t -> begun.contains(t.definition().name()))
                .filter(t -> t.mark().isEmpty()
                        || source.unwritten(t.definition().name(), t.mark()).isEmpty())
                .map(t -> t.definition().name())
                .collect(Collectors.toSet());
        plan.tasks().stream().filter(t -> moved.contains(t.part().table())).forEach(t -> receipts.remove(t.number()));
    }

    private static boolean isStanding(SliceTask task) {
        return task.source() instanceof SliceSource.OfTable of
                && of.slice().range().standing();
    }
}
