package org.orderlyferry.work;

import java.util.function.Function;
import java.util.function.Supplier;
import org.orderlyferry.io.Closing;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;

/** Source and target of a plan, both open; what fails on the way leaves neither open. */
record BothEnds(Place source, TargetPlace target) implements AutoCloseable {

    /**
     * Opens them.
     *
     * @param target opens the target for the records of that source
     * @throws UsageException if the source gives other records than it did when the plan was made, where it can tell
     */
    static BothEnds open(WorkPlan plan, Supplier<Place> source, Function<Place, TargetPlace> target) {
        Place from = source.get();
        try {
            if (!from.state().orElse("").equals(plan.state())) {
                throw new UsageException(
                        from.address() + " has changed since the plan was made; it has to be planned anew");
            }
            return new BothEnds(from, target.apply(from));
        } catch (RuntimeException e) {
            Closing.after(e, from);
            throw e;
        }
    }

    /** Does what needs both; if that fails, they are closed. */
    <T> T with(Function<BothEnds, T> work) {
        try {
            return work.apply(this);
        } catch (RuntimeException e) {
            Closing.after(e, target);
            Closing.after(e, source);
            throw e;
        }
    }

    @Override
    public void close() {
        try (source) {
            target.close();
        }
    }
}
