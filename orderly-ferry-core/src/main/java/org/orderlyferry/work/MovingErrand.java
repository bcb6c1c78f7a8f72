package org.orderlyferry.work;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.progress.ProgressListener;

/**
 * Tasks of a plan are to be run.
 *
 * @param kind the site's kind
 * @param site how both ends are opened
 * @param plan without its tasks
 * @param name what the work is called at its target
 * @param system what the source is
 * @param moment by which the source shows what the one who leads the work sees; empty for whatever is there
 * @param lanes among how many the plan's pace is shared out
 */
record MovingErrand(String kind, String site, WorkPlan plan, String name, String system, String moment, int lanes)
        implements Errand {

    static MovingErrand of(WorkSite site, WorkPlan plan, String name, String system, String moment, int lanes) {
        WorkPlan bare = new WorkPlan(plan.order(), plan.state(), plan.tables(), List.of(), List.of());
        return new MovingErrand(site.kind(), site.text(), bare, name, system, moment, lanes);
    }

    @Override
    public Errands join(Secrets secrets, ProgressListener told) {
        WorkSite opened = Errand.opened(this);
        return BothEnds.open(
                        plan,
                        () -> opened.source(secrets, Optional.of(moment).filter(m -> !m.isEmpty())),
                        source -> opened.target(secrets, system))
                .with(ends -> new MovingErrands(
                        this,
                        ends,
                        ends.target()
                                .join(
                                        plan.definitions(),
                                        plan.order().handling().modes(),
                                        name),
                        told));
    }
}
