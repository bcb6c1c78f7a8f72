package org.orderlyferry.work;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.tally.TallyTaker;

/** Reads records for their tallies: whoever does so a second time comes to the same. */
final class TallyErrands implements Errands {

    private final TallyErrand errand;
    private final Place place;
    private final ProgressListener told;
    private final StopSignal stop = new StopSignal();
    private final Map<TableName, TallyWork.Wanted> wanted = new HashMap<>();

    TallyErrands(TallyErrand errand, Place place, ProgressListener told) {
        this.errand = errand;
        this.place = place;
        this.told = told;
        errand.wanted().forEach(w -> wanted.put(w.table(), w));
    }

    @Override
    public SliceResult run(SliceTask task) {
        TallyWork.Wanted table = wanted.get(task.part().table());
        if (table == null) {
            throw new UsageException(
                    "nothing is to be tallied of table " + task.part().table());
        }
        return new SliceWorker(
                        null,
                        some -> new TallyTaker(table.columns(), table.forms()),
                        null,
                        part -> Optional.empty(),
                        place.rejects(),
                        Pace.share(errand.flow(), errand.flow().lanes()),
                        told,
                        stop::check)
                .run(task, place);
    }

    @Override
    public void stop() {
        stop.stop();
        place.cancel();
    }

    @Override
    public void close() {
        place.close();
    }
}
