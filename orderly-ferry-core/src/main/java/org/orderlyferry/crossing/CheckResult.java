package org.orderlyferry.crossing;

import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.progress.Plan;

/**
 * What would happen if a crossing ran now.
 *
 * @param source the source's system
 * @param target the target's
 * @param tables in the order of the crossing
 * @param obstacles why the run wouldn't be allowed to begin; none if it would
 * @param findings what arrives in another form than it left
 * @param leftBehind what can't be carried
 * @param goesOn the run that was cut short, and that would go on; empty for none
 * @param space bytes that are free where the set is kept; empty where nobody can tell
 * @param time how long it may take; empty where nothing was there to measure
 */
@NullMarked
public record CheckResult(
        String source,
        String target,
        List<Table> tables,
        List<String> obstacles,
        List<Finding> findings,
        List<LeftBehind> leftBehind,
        Optional<String> goesOn,
        OptionalLong space,
        Optional<Duration> time) {
    public CheckResult {
        tables = List.copyOf(tables);
        obstacles = List.copyOf(obstacles);
        findings = List.copyOf(findings);
        leftBehind = List.copyOf(leftBehind);
    }

    /**
     * A table of a crossing.
     *
     * @param from at the source
     * @param to at the target
     * @param rows how many records it has, about
     * @param bytes its size at the source, where that can tell
     * @param cut how it is cut
     * @param there how many records the target has in a table of that name, about; empty if it isn't there
     */
    public record Table(
            TableName from, TableName to, long rows, OptionalLong bytes, Plan.Table cut, OptionalLong there) {}

    /** Whether the run would be allowed to begin. */
    public boolean isAllowed() {
        return obstacles.isEmpty();
    }
}
