package org.orderlyferry.work;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;

/**
 * Records are to be read for their tallies alone.
 *
 * @param kind the site's kind
 * @param site how the place is opened
 * @param state of the place when it was cut, where it can tell; else empty
 * @param wanted what is tallied of each table
 * @param moment by which the place shows what the one who leads the work sees; empty for whatever is there
 * @param flow among whose lanes its pace is shared out
 */
record TallyErrand(
        String kind, String site, String state, List<TallyWork.Wanted> wanted, String moment, WorkOrder.Flow flow)
        implements Errand {

    TallyErrand {
        wanted = List.copyOf(wanted);
    }

    @Override
    public Errands join(Secrets secrets, ProgressListener told) {
        Place place = Errand.opened(this).source(secrets, Optional.of(moment).filter(m -> !m.isEmpty()));
        if (!place.state().orElse("").equals(state)) {
            try (place) {
                throw new UsageException(place.address() + " has changed while it was compared");
            }
        }
        return new TallyErrands(this, place, told);
    }
}
