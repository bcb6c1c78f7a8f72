package org.orderlyferry.work;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.Crew;
import org.orderlyferry.progress.OneAtATime;
import org.orderlyferry.progress.Plan;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.progress.Stoppable;
import org.orderlyferry.record.Rejects;
import org.slf4j.LoggerFactory;

/** Leads a piece of work from its order to its end: checks, plans, has the records moved, and finishes. */
final class Conductor {

    private final WorkOrder order;
    private final Place source;
    private final TargetPlace target;
    private final Rejects rejects;
    private final ProgressListener told;
    private final StopSignal stop;
    private final Optional<PlanFile> keptPlan;
    private final AtTheEnd end;
    private final Optional<Elsewhere> elsewhere;
    private String moment = "";
    private String name = "";
    private final List<Finding> findings = Collections.synchronizedList(new ArrayList<>());

    Conductor(
            WorkOrder order,
            Place source,
            TargetPlace target,
            Optional<Rejects> rejects,
            ProgressListener listener,
            StopSignal stop,
            Optional<PlanFile> keptPlan,
            AtTheEnd end,
            Optional<Elsewhere> elsewhere) {
        this.elsewhere = elsewhere;
        this.keptPlan = keptPlan;
        this.end = end;
        this.order = order;
        this.source = source;
        this.target = target;
        this.rejects = rejects.orElseGet(source::rejects);
        this.told = new OneAtATime(listener);
        this.stop = stop;
    }

    /** Does it all; if it fails, the target is as it was. */
    TransferResult run() {
        return Stoppable.run(
                stop,
                () -> {
                    source.cancel();
                    target.cancel();
                },
                this::conducted);
    }

    private TransferResult conducted() {
        told.stage(ProgressListener.Stage.CHECKING);
        try (Verification whole = verification()) {
            try {
                return conducted(whole);
            } catch (FerryException e) {
                throw whole.reason(e);
            }
        }
    }

    private Verification verification() {
        if (order.handling().acceptChanges()) {
            return new Verification();
        }
        if (elsewhere.isPresent()
                && source.tables().stream().allMatch(t -> source.keptTally(t).isPresent())) {
            // whoever reads them elsewhere tallies them, which is compared with what is kept before anything lasts
            source.verifyFiles();
            return new Verification();
        }
        // nobody sees tables that are new before the end; and a changed file's records aren't for anybody's list of
        // rejects
        boolean unseen = order.handling().modes().areNew() && rejects == Rejects.STOP;
        return unseen ? Verification.beside(source, stop) : Verification.before(source, stop);
    }

    private TransferResult conducted(Verification whole) {
        told.stage(ProgressListener.Stage.PLANNING);
        if (elsewhere.isPresent()) {
            moment = elsewhere.get().moment(order, source, target, rejects, keptPlan.isPresent());
        }
        int lanes = elsewhere.isPresent() ? 1 : Math.min(order.flow().lanes(), target.mostLanes());
        try (Hands hands = Hands.into(source, lanes)) {
            WorkPlan plan = plan();
            name = name(plan);
            if (elsewhere.isPresent()) {
                name = Elsewhere.joinable(plan, name);
            }
            tell(plan, hands);
            try (Loading loading = begin(plan)) {
                return moved(plan, hands, loading, whole);
            }
        }
    }

    /**
     * Leaves what is in already for a run to go on with, as if it had been killed: a person has stopped it, or what failed is a
     * connection or a disk, which may come back. Anything else would fail again, and is undone; and so is what a target
     * can't leave.
     */
    private void leave(WorkPlan plan, Loading loading, FerryException why) {
        // a statement that a stop has cancelled fails as any other does
        boolean mayGoOn = stop.isStopped()
                || why instanceof StoppedException
                || why instanceof PlaceException failure && failure.isLost()
                || why.getCause() instanceof IOException;
        if (!mayGoOn
                || keptPlan.isEmpty()
                || order.handling().rehearsal()
                || name(plan).isEmpty()) {
            return;
        }
        try {
            loading.suspend();
        } catch (UnsupportedOperationException e) {
            LoggerFactory.getLogger(Conductor.class).debug("what was begun is undone", e);
        } catch (FerryException e) {
            why.addSuppressed(e);
        }
    }

    private WorkPlan plan() {
        Optional<WorkPlan> kept = keptPlan.flatMap(PlanFile::read);
        if (kept.isPresent()) {
            return keptPlan.get().mustBeOf(order, mustStillBeThere(kept.get()));
        }
        WorkPlan plan = Planner.plan(order, source, standing(), stop::check);
        keptPlan.ifPresent(file -> file.write(plan));
        return plan;
    }

    /** Lanes of this process see one state, and hear of each other if records are put elsewhere meanwhile; other processes don't. */
    private Cut.Standing standing() {
        return elsewhere.isPresent() ? Cut.Standing.NEVER : Cut.Standing.into(target);
    }

    /** A plan is only good for tables that are still as they were defined then. */
    private WorkPlan mustStillBeThere(WorkPlan plan) {
        if (!plan.state().equals(source.state().orElse(""))) {
            throw new UsageException(source.address() + " has changed since the work was planned");
        }
        for (TableDefinition table : plan.definitions()) {
            boolean query = plan.order().selection().queries().stream()
                    .anyMatch(q -> q.name().equals(table.name()));
            if (!query && !source.define(table.name()).equals(table)) {
                throw new UsageException("table " + table.name() + " of " + source.address()
                        + " is defined otherwise than when the work was planned");
            }
        }
        return plan;
    }

    private void tell(WorkPlan plan, Hands hands) {
        told.plan(new Plan(
                hands.connections(),
                hands.all().size(),
                plan.tables().stream().map(t -> planned(plan, t)).toList()));
        told.planned(
                plan.tables().stream().map(t -> t.definition().name()).toList(),
                plan.tables().stream().mapToLong(WorkPlan.Table::rows).sum());
    }

    private static Plan.Table planned(WorkPlan plan, WorkPlan.Table table) {
        TableName name = table.definition().name();
        List<SliceTask> tasks =
                plan.tasks().stream().filter(t -> t.part().table().equals(name)).toList();
        List<String> by = tasks.get(0).source() instanceof SliceSource.OfTable of
                ? of.slice().range().columns()
                : ((SliceSource.OfQuery) tasks.get(0).source()).range().columns();
        return new Plan.Table(name, table.rows(), tasks.size(), by);
    }

    private Loading begin(WorkPlan plan) {
        return order.handling().rehearsal()
                ? target.rehearse(plan.definitions(), order.handling().modes())
                : target.begin(plan.definitions(), order.handling().modes(), name);
    }

    /**
     * The plan's name, by which the same command goes on with work that was killed: only where the source says that it
     * gives the same records as then, and where no records are rejected, whose reasons the killed run has.
     */
    private String name(WorkPlan plan) {
        boolean again = (keptPlan.isPresent() || !plan.state().isEmpty())
                && rejects == Rejects.STOP
                && !order.handling().acceptChanges();
        return again ? plan.hash() : "";
    }

    private TransferResult moved(WorkPlan plan, Hands hands, Loading loading, Verification whole) {
        findings.addAll(source.notices(plan.names()));
        findings.addAll(hands.findings());
        // asked before anything lasts: a source that fails afterwards must not make work that is done look failed
        List<LeftBehind> leftBehind = new ArrayList<>(source.leftBehind(plan.names()));
        told.stage(ProgressListener.Stage.MOVING);
        Crew crew = new Crew(() -> {
            stop.check();
            whole.check();
        });
        WorkState state = new WorkState(
                plan,
                loading,
                table -> order.handling().acceptChanges() ? Optional.empty() : source.keptTally(table),
                source.address(),
                told);
        resume(plan, loading, state).ifPresent(leftBehind::add);
        try {
            boolean several = elsewhere.isPresent() || hands.all().size() > 1;
            engine(plan, hands, loading, crew).run(several ? LongestFirst.of(plan) : plan.tasks(), state);
            told.stage(ProgressListener.Stage.FINISHING);
            whole.mustBeOver();
            stop.check();
            Ending.settle(loading, state, end, source.address());
        } catch (PlaceException | StoppedException e) {
            FerryException why = whole.reason(e);
            leave(plan, loading, why);
            throw why;
        }
        return Ending.finish(loading, state, leftBehind, findings);
    }

    private Engine engine(WorkPlan plan, Hands hands, Loading loading, Crew crew) {
        if (elsewhere.isPresent()) {
            return elsewhere
                    .get()
                    .engine(plan, name, source.system(), moment, order.flow().lanes(), crew, told);
        }
        SliceWorker worker = new SliceWorker(
                plan,
                null,
                loading::writer,
                loading::screen,
                rejects,
                new Pace(order.flow().rowsPerSecond(), order.flow().bytesPerSecond()),
                told,
                crew::check);
        return new LocalEngine(hands, worker::run, crew);
    }

    /**
     * Counts what is in already.
     *
     * @return that the tables aren't of one moment, which whoever gets the set must know
     */
    private Optional<LeftBehind> resume(WorkPlan plan, Loading loading, WorkState state) {
        Map<Integer, String> receipts = new TreeMap<>(loading.receipts());
        if (keptPlan.filter(k -> k.moments() == PlanFile.Moments.SEVERAL).isPresent()) {
            receipts.keySet().retainAll(ofWholeTables(plan, receipts.keySet()));
        }
        StandingSlices.dropMoved(plan, source, receipts);
        receipts.forEach(
                (task, receipt) -> state.resumed(plan.tasks().get(task), WorkState.receipt(plan, task, receipt)));
        if (!receipts.isEmpty()) {
            findings.add(Finding.ofAll(
                    FindingCode.RESUMED,
                    "the same work was cut short before; it went on from there, with " + receipts.size() + " of "
                            + plan.tasks().size() + " slices already in"));
        }
        String earlier = receipts.isEmpty() ? "" : moments(plan, receipts.keySet());
        return earlier.isEmpty()
                ? Optional.empty()
                : Optional.of(new LeftBehind(
                        "one moment",
                        earlier,
                        "the export was cut short and went on later; these tables are of an earlier moment than the"
                                + " others"));
    }

    /** The tables that are of an earlier moment. */
    private String moments(WorkPlan plan, Set<Integer> kept) {
        if (keptPlan.filter(k -> k.moments() == PlanFile.Moments.SEVERAL).isEmpty()) {
            return "";
        }
        return plan.tasks().stream()
                .filter(t -> kept.contains(t.number()))
                .map(t -> t.part().table().toString())
                .distinct()
                .collect(Collectors.joining(", "));
    }

    /** The tasks of tables of which none is missing: another slice would be of another moment than these. */
    private static Set<Integer> ofWholeTables(WorkPlan plan, Set<Integer> done) {
        Set<TableName> broken = plan.tasks().stream()
                .filter(t -> !done.contains(t.number()))
                .map(t -> t.part().table())
                .collect(Collectors.toSet());
        return plan.tasks().stream()
                .filter(t -> !broken.contains(t.part().table()))
                .map(SliceTask::number)
                .collect(Collectors.toSet());
    }
}
