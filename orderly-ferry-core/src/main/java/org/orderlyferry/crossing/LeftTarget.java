package org.orderlyferry.crossing;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.ledger.TableFacts;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.progress.Stoppable;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.RecordSum;
import org.orderlyferry.reconcile.TargetDigest;
import org.orderlyferry.tally.SeededDigest;

/**
 * Whether a target is still as a run, and the catch-ups that came after it, have left it. What others have done since would be
 * lost by undoing the run.
 */
final class LeftTarget {

    /** The fact that tells what a proof found at the target of a table. */
    static final String AT_TARGET = "at target ";

    /** The fact that tells, where the target can, up to which of its changes that was seen. */
    static final String MARK = "mark ";

    private static final String ONLY_IF_TOLD =
            ". Undoing would throw that away, and does so only if told; nothing was changed";

    private final Crossing crossing;
    private final Ends ends;
    private final ProgressListener listener;
    private final StopSignal stop;

    LeftTarget(Crossing crossing, Ends ends, ProgressListener listener, StopSignal stop) {
        this.crossing = crossing;
        this.ends = ends;
        this.listener = listener;
        this.stop = stop;
    }

    /** The newest run that has changed the target, and what it has proved, if it came to that. */
    private record Newest(RunFolder run, boolean isCatchUp, Optional<LedgerLine> proof) {}

    /**
     * Looks, if the run has come to a proof.
     *
     * @throws UsageException if somebody has changed the target, or if nobody can tell
     */
    void mustBeUnchanged(RunFolder folder, RunLedger ledger) {
        Newest newest = newest(folder, ledger);
        if (newest.proof().isEmpty()) {
            if (newest.isCatchUp()) {
                throw new UsageException("the catch-up of " + newest.run().name()
                        + " isn't finished, so that nobody can tell whether others have changed the target since it began"
                        + ONLY_IF_TOLD);
            }
            return;
        }
        LedgerLine proof = newest.proof().get();
        String fact = proof.facts().keySet().stream().anyMatch(f -> f.startsWith(AT_TARGET)) ? AT_TARGET : CatchUp.LEFT;
        mustBeKnown(newest, proof, fact);
        List<TableName> read = written(proof, fact);
        if (read.isEmpty()) {
            return;
        }
        try (Place set = new OnlyTables(Places.open(folder.set()), read);
                Place target = new OnlyTables(ends.targetToRead(), read)) {
            List<String> changed = new ArrayList<>();
            for (TableName table : read) {
                if (SeededDigest.isOfAnotherForm(said(proof, fact, table))) {
                    throw untold(target, table);
                }
            }
            List<TableName> asked = read.stream()
                    .filter(t -> seeded(proof, fact, t).isPresent())
                    .toList();
            for (TableName table : asked) {
                long seed = seeded(proof, fact, table).orElseThrow().seed();
                RecordSum sum = taken(set, target, table, seed);
                change(table, sum.rows(), new SeededDigest(seed, sum.digest()).toString(), proof, fact)
                        .ifPresent(changed::add);
            }
            read.removeAll(asked);
            if (!read.isEmpty()) {
                comparison(new OnlyTables(set, read), new OnlyTables(target, read), proof, fact)
                        .listener(listener)
                        .stopSignal(stop)
                        .compare()
                        .tables()
                        .forEach(t -> change(t.table(), t.targetRows().orElse(0), t.targetDigest(), proof, fact)
                                .ifPresent(changed::add));
            }
            if (!changed.isEmpty()) {
                throw new UsageException(
                        "somebody has changed the target since the run: " + Listed.of(changed, "; ") + ONLY_IF_TOLD);
            }
        }
    }

    /**
     * The tables that are to be read: not those of which the target itself knows that they weren't written since. What a catch-up has
     * left was reckoned, and not seen.
     */
    private List<TableName> written(LedgerLine proof, String fact) {
        List<TableName> read = new ArrayList<>(ends.tables());
        if (fact.equals(AT_TARGET)) {
            try (Place target = ends.targetToRead()) {
                List<TableName> there = target.tables();
                read.removeIf(t -> there.contains(t) && isUnwritten(target, t, proof));
            }
        }
        return read;
    }

    private static boolean isUnwritten(Place target, TableName table, LedgerLine proof) {
        String mark = proof.fact(TableFacts.of(MARK, table));
        String rows = proof.fact(TableFacts.of(AT_TARGET, table)).split(" ", -1)[0];
        OptionalLong now = mark.isEmpty() ? OptionalLong.empty() : target.unwritten(table, mark);
        return now.isPresent() && rows.equals(Long.toString(now.getAsLong()));
    }

    /** Marks, as facts, of what a proof is about to see. */
    static Map<String, String> marks(Ends ends) {
        Map<String, String> marks = new LinkedHashMap<>();
        try (Place target = ends.targetToRead()) {
            target.tables().forEach(t -> target.mark(t, false).ifPresent(m -> marks.put(TableFacts.of(MARK, t), m)));
        }
        return marks;
    }

    private void mustBeKnown(Newest newest, LedgerLine proof, String fact) {
        List<TableName> unknown = ends.tables().stream()
                .filter(t -> proof.fact(TableFacts.of(fact, t)).isEmpty())
                .toList();
        if (!unknown.isEmpty()) {
            throw new UsageException("the catch-up of " + newest.run().name() + " doesn't say what it left of "
                    + Listed.of(unknown)
                    + ", as where a column told what had changed and nothing else was read, so that nobody can tell"
                    + " whether others have changed the target since"
                    + ONLY_IF_TOLD);
        }
    }

    /** Just as deep as it was proved, since digests say nothing where they were taken otherwise. */
    private Reconcile comparison(Place set, Place target, LedgerLine proof, String fact) {
        if (fact.equals(CatchUp.LEFT)) {
            return Reconcile.between(set, target)
                    .depth(Depth.DIGESTS)
                    .pace(crossing.rowsPerSecond(), crossing.bytesPerSecond())
                    .lanes(crossing.lanes());
        }
        Reconcile reconcile = Proof.comparison(crossing, set, target);
        // a catch-up has read what a run has only counted
        ends.tables().stream().filter(t -> digest(proof, t).isEmpty()).forEach(t -> reconcile.depth(t, Depth.COUNTS));
        new Choices(crossing)
                .of(LoadMode.MERGE).stream()
                        .filter(t -> !digest(proof, t).isEmpty())
                        .forEach(t -> reconcile.depth(t, Depth.DIGESTS));
        return reconcile;
    }

    private static String digest(LedgerLine proof, TableName table) {
        String[] was = proof.fact(TableFacts.of(AT_TARGET, table)).split(" ", -1);
        return was.length > 1 ? was[1] : "";
    }

    /** What the target's own server has said of a table. */
    private static Optional<SeededDigest> seeded(LedgerLine proof, String fact, TableName table) {
        return SeededDigest.parse(said(proof, fact, table));
    }

    private static String said(LedgerLine proof, String fact, TableName table) {
        String was = proof.fact(TableFacts.of(fact, table));
        return was.substring(was.indexOf(' ') + 1);
    }

    private RecordSum taken(Place set, Place target, TableName table, long seed) {
        return Stoppable.run(stop, target::cancel, () -> TargetDigest.of(set, target, table, seed))
                .orElseThrow(() -> untold(target, table));
    }

    private static UsageException untold(Place target, TableName table) {
        return new UsageException("the server of " + target.address() + " doesn't take the digest of table " + table
                + " any more by which the catch-up said what it had left, so that nobody can tell whether others have"
                + " changed the target since" + ONLY_IF_TOLD);
    }

    private static Optional<String> change(TableName table, long rows, String digest, LedgerLine proof, String fact) {
        String was = proof.fact(TableFacts.of(fact, table));
        if ((rows + " " + digest).equals(was)) {
            return Optional.empty();
        }
        String before = was.split(" ", -1)[0];
        return Optional.of("table " + table + " has " + rows + " records now"
                + (before.equals(Long.toString(rows))
                        ? ", with other values than after the run"
                        : ", and had " + before + " after the run"));
    }

    /** Catch-ups have changed the target since the run, and said what they left. */
    private Newest newest(RunFolder folder, RunLedger ledger) {
        Newest newest = new Newest(folder, false, ledger.last(Step.PROOF, State.DONE));
        for (RunFolder later : RunFolder.all(crossing.keep())) {
            if (later.name().compareTo(folder.name()) > 0) {
                RunLedger of = RunLedger.read(later.path());
                // one that hasn't begun to load has changed nothing
                if (Runs.isCatchUp(of) && !of.has(Step.RUN, State.GIVEN_UP) && of.has(Step.LOAD, State.BEGUN)) {
                    newest = new Newest(later, true, of.last(Step.PROOF, State.DONE));
                }
            }
        }
        return newest;
    }
}
