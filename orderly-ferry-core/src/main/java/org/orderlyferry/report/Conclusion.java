package org.orderlyferry.report;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Verdict;

/**
 * What a piece of work comes to, in one line.
 *
 * @param mark how it is to be taken
 * @param text the line
 */
@NullMarked
public record Conclusion(Mark mark, String text) {

    /** How a conclusion is to be taken. */
    public enum Mark {
        /** It is shown that all arrived. */
        PROVED,
        /** It is done, and nobody has looked whether all arrived. */
        DONE,
        /** A person must look. */
        WRONG
    }

    static Conclusion of(WorkRecord work) {
        return switch (work.status()) {
            case UNFINISHED ->
                new Conclusion(Mark.WRONG, "Not finished: it was cut short, and goes on when it is run again.");
            case REFUSED -> new Conclusion(Mark.WRONG, "Refused before anything was changed" + why(work) + ".");
            case UNDONE -> new Conclusion(Mark.DONE, "Undone: the target was put back as it was before the run.");
            case FINISHED -> finished(work).and(work);
        };
    }

    /** What is equal is so as far as the source was followed. */
    private Conclusion and(WorkRecord work) {
        return work.mayLackRecords()
                ? new Conclusion(
                        Mark.WRONG,
                        text + " But something that changes records at the source wasn't followed, and is left behind.")
                : this;
    }

    private static String why(WorkRecord work) {
        List<RecordedEvent> events = work.events();
        return events.isEmpty() ? "" : ": " + events.get(events.size() - 1).text();
    }

    private static Conclusion finished(WorkRecord work) {
        List<TableCounts> tables = work.tables();
        long wrong = tables.stream().filter(t -> !t.addsUp()).count();
        long failed = work.steps().stream().mapToLong(s -> s.failed().size()).sum();
        if (wrong > 0) {
            return new Conclusion(
                    Mark.WRONG,
                    "The counts of " + count(wrong, "table") + " of " + tables.size() + " don't add up: "
                            + tables.stream()
                                    .filter(t -> !t.addsUp())
                                    .findFirst()
                                    .map(t -> "table " + t.table() + ", "
                                            + t.wrong().get(0))
                                    .orElse("")
                            + ".");
        }
        if (failed > 0) {
            return new Conclusion(Mark.WRONG, count(failed, "table") + " couldn't be read.");
        }
        Optional<RecordedComparison> proof = work.proof();
        boolean proofWithoutTables = proof.isEmpty()
                && work.steps().stream()
                        .anyMatch(s -> !s.facts().getOrDefault("equal", "").isEmpty());
        if (proofWithoutTables) {
            boolean equal = work.steps().stream()
                    .allMatch(s -> s.facts().getOrDefault("equal", "true").equals("true"));
            return equal
                    ? new Conclusion(
                            Mark.PROVED, "The target has what it should: the set, merged once more, changes nothing.")
                    : new Conclusion(Mark.WRONG, "The target isn't as it should be.");
        }
        return proof.map(p -> compared(work, p)).orElseGet(() -> moved(work, tables));
    }

    private static Conclusion moved(WorkRecord work, List<TableCounts> tables) {
        boolean load = work.kind() == WorkKind.LOAD;
        long rows = tables.stream()
                .mapToLong(t -> value(load ? t.loaded() : t.written()))
                .sum();
        long rejected = tables.stream().mapToLong(t -> value(t.rejected())).sum();
        return new Conclusion(
                rejected > 0 ? Mark.WRONG : Mark.DONE,
                count(rows, "record") + " of " + count(tables.size(), "table")
                        + (load ? " loaded" : " exported")
                        + (rejected > 0 ? ", " + count(rejected) + " rejected" : "")
                        + ". The ends weren't compared.");
    }

    private static Conclusion compared(WorkRecord work, RecordedComparison comparison) {
        List<ComparedCounts> tables = comparison.tables();
        long equal = tables.stream().filter(t -> t.verdict() == Verdict.EQUAL).count();
        long rows = tables.stream().mapToLong(t -> value(t.targetRows())).sum();
        long rejected =
                work.tables().stream().mapToLong(t -> value(t.rejected())).sum();
        // some tables may have been merged into and others not
        boolean someMerged = comparison.between().contains("some merged");
        boolean merged = comparison.between().contains("merged") && !someMerged;
        String how = how(comparison, someMerged);
        if (comparison.sampledPercent() != null && equal == tables.size()) {
            return new Conclusion(
                    Mark.DONE,
                    "No difference in a sample of "
                            + comparison.sampledPercent().stripTrailingZeros().toPlainString() + " %: "
                            + count(value(comparison.sampledRows()), "record") + " of " + count(tables.size(), "table")
                            + ". Of the others only the number is known.");
        }
        if (comparison.equal()) {
            String text = merged
                    ? "All " + count(tables.size(), "table") + " have what was merged into them."
                    : someMerged
                            ? "All " + count(tables.size(), "table") + " are as they should be, " + how + ": "
                                    + count(rows, "record") + " in the target."
                            : (tables.size() == 1
                                            ? "The one table is equal"
                                            : "All " + count(tables.size(), "table") + " are equal")
                                    + " on both sides, " + how + ": " + count(rows, "record") + " in the target.";
            String but = rejected == 0 ? "" : " But " + count(rejected, "record") + " were rejected before.";
            return new Conclusion(rejected == 0 ? Mark.PROVED : Mark.WRONG, text + but);
        }
        if (equal == tables.size() && comparison.definitions() != null) {
            long parts = comparison.definitions().differences().stream()
                    .filter(d -> !d.forced())
                    .count();
            return new Conclusion(
                    Mark.WRONG,
                    "All records are equal on both sides, " + how + ", but " + count(parts, "part")
                            + " of the definitions " + (parts == 1 ? "isn't." : "aren't."));
        }
        long differing =
                tables.stream().mapToLong(ComparedCounts::differingRows).sum();
        return new Conclusion(
                Mark.WRONG,
                merged
                        ? "The target doesn't have all that was merged into it."
                        : count(tables.size() - equal) + " of " + count(tables.size(), "table") + " differ"
                                + (tables.size() - equal == 1 ? "s" : "")
                                + (differing == 0 ? "" : ", in " + count(differing, "record"))
                                + ".");
    }

    /** How deeply tables were compared, which needn't be the same with all. */
    private static String how(RecordedComparison comparison, boolean someMerged) {
        Map<Depth, Long> tables = comparison.tables().stream()
                .filter(t -> t.sourceRows() != null && t.targetRows() != null)
                .collect(Collectors.groupingBy(ComparedCounts::depth, TreeMap::new, Collectors.counting()));
        if (tables.size() < 2) {
            return how(comparison.depth());
        }
        return tables.entrySet().stream()
                .map(e -> count(e.getValue()) + " " + how(e.getKey())
                        + (someMerged && e.getKey() == Depth.COUNTS ? " or by merging once more" : ""))
                .collect(Collectors.joining(", "));
    }

    private static String how(Depth depth) {
        return switch (depth) {
            case COUNTS -> "by their numbers";
            case DIGESTS -> "by digests of every value";
            case ROWS -> "record by record";
        };
    }

    private static long value(@org.jspecify.annotations.Nullable Long number) {
        return number == null ? 0 : number;
    }

    private static String count(long number) {
        return String.format(Locale.ROOT, "%,d", number);
    }

    private static String count(long number, String noun) {
        return count(number) + " " + noun + (number == 1 ? "" : "s");
    }
}
