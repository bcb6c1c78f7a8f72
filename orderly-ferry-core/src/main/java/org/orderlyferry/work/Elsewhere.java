package org.orderlyferry.work;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.Crew;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.record.Rejects;

/** That work is done by other processes, and what it needs for that. */
record Elsewhere(RemoteEngine engine, WorkSite site) {

    /**
     * Refuses what can't be done so.
     *
     * @param still whether somebody says that the source stands still, or may be of several moments
     * @return by which other processes see what this one sees
     */
    String moment(WorkOrder order, Place source, TargetPlace target, Rejects rejects, boolean still) {
        if (rejects != Rejects.STOP) {
            throw new UsageException("with " + engine.name()
                    + " no records can be rejected, since each is looked at elsewhere; the first that can't be taken has"
                    + " to end the work");
        }
        if (order.handling().rehearsal()) {
            throw new UsageException("a load is only tried where it is begun, not with " + engine.name());
        }
        if (target.mostLanes() == 1) {
            throw new UsageException(target.address() + " can't be written by several processes at once, so "
                    + engine.name() + " is of no use for it");
        }
        Optional<String> moment = source.moment();
        if (moment.isEmpty() && source.state().isEmpty() && !still) {
            throw new UsageException(source.address() + " can't show one moment to several processes, so "
                    + engine.name() + " needs to be told that it stands still, or that several moments will do");
        }
        return moment.orElse("");
    }

    /**
     * What the work is called at its target, where others join it.
     *
     * @param name what it is called for somebody to go on with it; empty if nobody can
     */
    static String joinable(WorkPlan plan, String name) {
        return name.isEmpty() ? plan.hash() + "-" + UUID.randomUUID() : name;
    }

    Engine engine(
            WorkPlan plan, String name, String system, String moment, int lanes, Crew crew, ProgressListener told) {
        return telling(engine.engine(MovingErrand.of(site, plan, name, system, moment, lanes), lanes, crew), told);
    }

    /** Has records read for their tallies. */
    Engine engine(Place place, List<TallyWork.Wanted> wanted, WorkOrder.Flow flow, Crew crew, ProgressListener told) {
        TallyErrand errand = new TallyErrand(
                site.kind(),
                site.text(),
                place.state().orElse(""),
                wanted,
                place.moment().orElse(""),
                flow);
        return telling(engine.engine(errand, flow.lanes(), crew), told);
    }

    private static Engine telling(Engine far, ProgressListener told) {
        return (tasks, events) -> far.run(tasks, new ToldOfTasks(events, told));
    }
}
