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
        // what is whole needs nothing more, and of what wasn't begun nothing is kept
        Set<TableName> missing = tables(plan, receipts, false);
        Set<TableName> begun = tables(plan, receipts, true);
        begun.retainAll(missing);
        Set<TableName> moved = plan.tables().stream()
                .filter(t -> begun.contains(t.definition().name()))
                .filter(t -> t.mark().isEmpty()
                        || source.unwritten(t.definition().name(), t.mark()).isEmpty())
                .map(t -> t.definition().name())
                .collect(Collectors.toSet());
        plan.tasks().stream().filter(t -> moved.contains(t.part().table())).forEach(t -> receipts.remove(t.number()));
    }

    /** The tables of which slices are in, or aren't. */
    private static Set<TableName> tables(WorkPlan plan, Map<Integer, String> receipts, boolean in) {
        return plan.tasks().stream()
                .filter(t -> receipts.containsKey(t.number()) == in)
                .filter(StandingSlices::isStanding)
                .map(t -> t.part().table())
                .collect(Collectors.toSet());
    }

    private static boolean isStanding(SliceTask task) {
        return task.source() instanceof SliceSource.OfTable of
                && of.slice().range().standing();
    }
}
