package org.orderlyferry.report;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.reconcile.Verdict;

/**
 * What was counted of one table at every hop of its way; null where nobody has counted. Each number is counted anew where it
 * stands, so that two that should be the same can differ.
 *
 * @param source records at the source, when both ends were compared
 * @param read records that the export has read
 * @param rejected records that were read and not written, in an export or a load
 * @param leftOut records that a condition has left out, likewise
 * @param written records that the export has written into files
 * @param inSet records that the set tells of
 * @param readFromSet records that the load has read
 * @param loaded records that the load has written
 * @param inserted what a merge has added; null where nothing was merged
 * @param updated what a merge has changed
 * @param before records that the target had before
 * @param target records in the target now
 * @param bytes of the files, or of the values that were loaded where there are none
 * @param seconds how long it took altogether
 * @param compared what comparing both ends came to; null where they weren't
 * @param wrong what doesn't add up, each in one sentence
 */
@NullMarked
public record TableCounts(
        String table,
        @Nullable Long source,
        @Nullable Long read,
        @Nullable Long rejected,
        @Nullable Long leftOut,
        @Nullable Long written,
        @Nullable Long inSet,
        @Nullable Long readFromSet,
        @Nullable Long loaded,
        @Nullable Long inserted,
        @Nullable Long updated,
        @Nullable Long before,
        @Nullable Long target,
        long bytes,
        double seconds,
        @Nullable ComparedCounts compared,
        List<String> wrong) {

    /** Which step says what. */
    static final String BACKUP = "backup";

    static final String EXPORT = "export";
    static final String LOAD = "load";
    private static final String DELETE = "delete";
    private static final String APPENDED = "append";
    private static final String MERGED = "merge";

    /** Whether each number is what the others say it must be. */
    public boolean addsUp() {
        return wrong.isEmpty();
    }

    /** Whether a person must look at it. */
    public boolean needsAPerson() {
        return !addsUp() || compared != null && compared.verdict() != Verdict.EQUAL;
    }

    static List<TableCounts> of(WorkRecord work) {
        Map<String, Gathered> all = new LinkedHashMap<>();
        for (WorkStep step : work.steps()) {
            step.moved().forEach(m -> gathered(all, m.table()).moved(step.step(), m));
            step.kept().forEach(k -> gathered(all, k.table()).kept(step.step(), k));
            RecordedComparison comparison = step.compared();
            if (comparison != null) {
                comparison.tables().forEach(c -> gathered(all, c.table()).compared(comparison, c));
            }
        }
        boolean deletes = work.steps().stream().anyMatch(s -> s.step().equals(DELETE));
        boolean backedUp = work.steps().stream()
                .anyMatch(s -> s.step().equals(BACKUP) && !s.kept().isEmpty());
        return all.values().stream()
                .map(g -> {
                    String onto = onto(work, g.table);
                    return g.counts(
                            onto.equals(APPENDED),
                            onto.equals(MERGED),
                            backedUp,
                            deletes || work.kind() == WorkKind.CATCH_UP);
                })
                .toList();
    }

    /** What was done with a table, which may be otherwise than with all. */
    private static String onto(WorkRecord work, String table) {
        String all = work.settings().getOrDefault("onto", "");
        return work.settings().getOrDefault("onto " + table, all);
    }

    private static Gathered gathered(Map<String, Gathered> all, String table) {
        return all.computeIfAbsent(table, Gathered::new);
    }

    /** What was found of a table so far. */
    private static final class Gathered {

        private final String table;
        private @Nullable MovedCounts exported;
        private @Nullable MovedCounts loaded;
        private @Nullable Long before;
        private @Nullable Long inSet;
        private @Nullable ComparedCounts compared;
        private boolean atSource;
        private double seconds;

        Gathered(String table) {
            this.table = table;
        }

        void moved(String step, MovedCounts counts) {
            seconds += counts.seconds();
            switch (step) {
                case EXPORT -> exported = counts;
                case LOAD -> loaded = counts;
                default -> {
                    // a backup is the target's own
                }
            }
        }

        void kept(String step, KeptCount count) {
            if (step.equals(BACKUP)) {
                before = count.rows();
            } else {
                inSet = count.rows();
            }
        }

        void compared(RecordedComparison comparison, ComparedCounts counts) {
            compared = counts;
            atSource = comparison.between().startsWith("source");
        }

        TableCounts counts(boolean appended, boolean merged, boolean backedUp, boolean caughtUp) {
            Optional<MovedCounts> out = Optional.ofNullable(exported);
            Optional<MovedCounts> in = Optional.ofNullable(loaded);
            Optional<ComparedCounts> both = Optional.ofNullable(compared);
            // beside what was there before, the source's own are the rest
            long had = before == null ? 0 : before;
            Long source = both.filter(c -> atSource)
                    .map(ComparedCounts::sourceRows)
                    .map(rows -> rows - (appended ? had : 0))
                    .orElse(null);
            TableCounts counts = new TableCounts(
                    table,
                    source,
                    out.map(MovedCounts::read).orElse(null),
                    sum(out.map(MovedCounts::rejected), in.map(MovedCounts::rejected)),
                    sum(out.map(MovedCounts::leftOut), in.map(MovedCounts::leftOut)),
                    out.map(MovedCounts::written).orElse(null),
                    inSet,
                    in.map(MovedCounts::read).orElse(null),
                    in.map(MovedCounts::written).orElse(null),
                    in.map(MovedCounts::inserted).orElse(null),
                    in.map(MovedCounts::updated).orElse(null),
                    before,
                    both.map(ComparedCounts::targetRows).orElse(null),
                    out.or(() -> in).map(MovedCounts::bytes).orElse(0L),
                    seconds,
                    compared,
                    List.of());
            List<String> wrong = new ArrayList<>();
            in.ifPresent(l -> same(
                    wrong,
                    l.read(),
                    "read by the load",
                    l.written() + l.rejected() + l.leftOut(),
                    "loaded, rejected or left out by it"));
            counts.check(wrong, out, appended, merged, backedUp, caughtUp);
            return counts.with(wrong);
        }

        private static @Nullable Long sum(Optional<Long> one, Optional<Long> other) {
            return one.isEmpty() && other.isEmpty() ? null : Long.valueOf(one.orElse(0L) + other.orElse(0L));
        }
    }

    private void check(
            List<String> wrong,
            Optional<MovedCounts> out,
            boolean appended,
            boolean merged,
            boolean backedUp,
            boolean caughtUp) {
        out.ifPresent(e -> same(
                wrong,
                e.read(),
                "read by the export",
                e.written() + e.rejected() + e.leftOut(),
                "written, rejected or left out by it"));
        if (!caughtUp) {
            same(wrong, source, "at the source", written, "written into files");
        }
        same(wrong, written, "written into files", inSet, "in the set");
        same(wrong, inSet, "in the set", readFromSet, "read by the load");
        if (target == null || caughtUp) {
            return;
        }
        if (loaded == null) {
            // found to be in by a process that went on: what the killed one has counted isn't known
            if (!merged && !appended) {
                same(wrong, inSet, "in the set", target, "in the target");
            }
        } else if (inserted != null) {
            if (backedUp) {
                same(wrong, (before == null ? 0 : before) + inserted, "there before or added", target, "in the target");
            }
        } else if (appended) {
            if (backedUp) {
                same(wrong, (before == null ? 0 : before) + loaded, "there before or loaded", target, "in the target");
            }
        } else {
            same(wrong, loaded, "loaded", target, "in the target");
        }
    }

    private static void same(
            List<String> wrong, @Nullable Long one, String where, @Nullable Long other, String elsewhere) {
        if (one != null && other != null && !one.equals(other)) {
            wrong.add(one + " " + where + ", and " + other + " " + elsewhere);
        }
    }

    private TableCounts with(List<String> value) {
        return new TableCounts(
                table,
                source,
                read,
                rejected,
                leftOut,
                written,
                inSet,
                readFromSet,
                loaded,
                inserted,
                updated,
                before,
                target,
                bytes,
                seconds,
                compared,
                List.copyOf(value));
    }
}
