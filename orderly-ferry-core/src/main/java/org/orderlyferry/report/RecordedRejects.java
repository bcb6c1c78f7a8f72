package org.orderlyferry.report;

import java.util.List;
import org.jspecify.annotations.NullMarked;

/**
 * The records that were rejected.
 *
 * @param file in which all of them are, each with its reason
 * @param count how many
 * @param groups by table, column and reason, the largest first; at most {@value #MOST}
 * @param furtherGroups how many records are in groups that aren't listed
 */
@NullMarked
public record RecordedRejects(String file, long count, List<RejectGroup> groups, long furtherGroups) {

    /** How many groups are listed. */
    public static final int MOST = 100;

    public RecordedRejects {
        file = Bounded.text(file);
        groups = Bounded.list(groups);
    }
}
