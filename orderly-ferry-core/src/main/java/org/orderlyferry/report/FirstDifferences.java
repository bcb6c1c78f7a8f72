package org.orderlyferry.report;

import java.util.ArrayList;
import java.util.List;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.reconcile.DifferenceListener;
import org.orderlyferry.reconcile.RowDifference;

/** Keeps the first records that differ, for a record. For one thread. */
@NullMarked
@API(status = API.Status.INTERNAL)
public final class FirstDifferences implements DifferenceListener {

    private final List<RecordedDifference> first = new ArrayList<>();

    /** None so far. */
    public FirstDifferences() {}

    @Override
    public void found(RowDifference difference) {
        if (first.size() < RecordedComparison.MOST) {
            first.add(RecordedDifference.of(difference));
        }
    }

    /** Those that were heard of. */
    public List<RecordedDifference> found() {
        return List.copyOf(first);
    }
}
