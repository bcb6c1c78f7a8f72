package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.place.Loading;
import org.orderlyferry.problem.PlaceException;

/** The end of a piece of work, when all its slices have moved. */
final class Ending {

    private Ending() {}

    /**
     * Settles it: as long as this isn't over, other work of the same plan can go on with it.
     *
     * @param end what is done in one with its end
     * @param source the source's address, for messages
     * @throws PlaceException if no table could be read at all
     */
    static void settle(Loading loading, WorkState state, AtTheEnd end, String source) {
        List<FailedTable> failed = state.failed();
        if (!failed.isEmpty() && state.moved().isEmpty()) {
            throw new PlaceException(source, "no table could be read; " + failed.get(0), null);
        }
        if (!end.removals().isEmpty()) {
            loading.delete(end.removals());
        }
        end.keep().ifPresent(loading::keepReplaced);
        loading.settle();
    }

    /**
     * Finishes it when it is settled.
     *
     * @param leftBehind what the source can't give
     * @param findings what is known so far
     */
    static TransferResult finish(
            Loading loading, WorkState state, List<LeftBehind> leftBehind, List<Finding> findings) {
        List<FailedTable> failed = state.failed();
        List<LeftBehind> left = new ArrayList<>(loading.lacking(leftBehind));
        failed.forEach(f -> left.add(new LeftBehind("table", f.table().toString(), f.reason())));
        loading.finish(state.written(left));
        List<Finding> found = new ArrayList<>(findings);
        found.addAll(state.findings());
        found.addAll(loading.findings());
        List<MovedTable> moved = state.moved().stream()
                .map(m -> m.withMerged(loading.merged(m.table())))
                .toList();
        left.addAll(loading.leftBehind());
        // each slice of a table may have found the same
        return new TransferResult(
                moved, failed, found.stream().distinct().toList(), left, loading.deleted(), loading.isRefused());
    }
}
