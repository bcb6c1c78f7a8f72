package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.Finding;
import org.orderlyferry.record.RecordReader;

/** What a reader that goes through several others has to tell. */
final class Findings {

    private Findings() {}

    /**
     * All of it.
     *
     * @param closed what those had to tell that are closed
     * @param open the one that isn't; null where there is none
     */
    static List<Finding> of(List<Finding> closed, @Nullable RecordReader open) {
        if (open == null) {
            return List.copyOf(closed);
        }
        List<Finding> all = new ArrayList<>(closed);
        all.addAll(open.findings());
        return all;
    }
}
