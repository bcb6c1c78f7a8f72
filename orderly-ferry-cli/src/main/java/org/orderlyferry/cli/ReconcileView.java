package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import org.orderlyferry.place.Place;
import org.orderlyferry.reconcile.AppliedRule;
import org.orderlyferry.reconcile.ComparedTable;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.reconcile.RowDifference;
import org.orderlyferry.reconcile.SampleCount;
import org.orderlyferry.reconcile.Verdict;

/** What comparing two places has come to, for the terminal and as JSON. */
final class ReconcileView {

    /** With more tables, those that need nobody are only counted. */
    static final int MOST_LISTED = 30;

    private final Console console;
    private final boolean all;

    /**
     * A view.
     *
     * @param all whether every table is listed
     */
    ReconcileView(Console console, boolean all) {
        this.console = console;
        this.all = all;
    }

    /** Shows it on the terminal. */
    void show(Place from, Place to, ReconcileResult result, ProgressLine progress, List<RowDifference> first) {
        Style style = console.style();
        console.line(style.strong("Reconciled by " + how(result)));
        console.line("  source  " + from.address() + " (" + from.system() + ")");
        console.line("  target  " + to.address() + " (" + to.system() + ")");
        console.line("");
        // those that need a person stand out where there are many
        boolean fold = !all && result.tables().size() > MOST_LISTED;
        List<ComparedTable> listed = result.tables().stream()
                .filter(t -> !fold || t.verdict() != Verdict.EQUAL || !t.rules().isEmpty())
                .toList();
        long folded = result.tables().size() - listed.size();
        TextTable table = new TextTable()
                .left("table")
                .right("source rows")
                .right("target rows")
                .left("verdict")
                .left(result.isEqual() && !ruled(result) ? "" : "what differs");
        for (ComparedTable compared : listed) {
            table.row(
                    compared.table().toString(),
                    rows(compared.sourceRows()),
                    rows(compared.targetRows()),
                    compared.verdict() == Verdict.EQUAL && result.sample().isPresent()
                            ? style.warning("alike")
                            : verdict(style, compared.verdict()),
                    what(compared, result.depth()));
        }
        if (!listed.isEmpty()) {
            table.lines(style).forEach(console::line);
        }
        if (folded > 0) {
            String equalOnes = listed.isEmpty()
                    ? "all " + Amounts.count(folded, "table") + " are equal"
                    : "and " + Amounts.count(folded, "table") + (folded == 1 ? " that is" : " that are") + " equal";
            console.line(style.faint("  " + equalOnes + "; --all lists them"));
        }
        TotalsView.show(console, result);
        new DifferenceView(first, result).show(console);
        result.definitions().ifPresent(d -> StructureView.show(console, d, all ? Integer.MAX_VALUE : MOST_LISTED));
        new Report(console).notes("To be known", result.findings());
        console.line("");
        long equal = result.tables().stream()
                .filter(t -> t.verdict() == Verdict.EQUAL)
                .count();
        long values = result.tables().stream()
                .flatMap(t -> t.rules().stream())
                .mapToLong(r -> Math.max(0, r.values()))
                .sum();
        long used = result.tables().stream()
                .flatMap(t -> t.rules().stream())
                .map(AppliedRule::rule)
                .distinct()
                .count();
        String byRules = used == 0
                ? "."
                : ", by " + Amounts.count(used, "rule")
                        + (values == 0 ? "." : ", " + Amounts.count(values, "value") + ".");
        String of =
                Amounts.count(equal) + " of " + Amounts.count(result.tables().size(), "table");
        if (result.sample().isPresent()) {
            sampled(result, equal, progress);
            return;
        }
        boolean records = equal == result.tables().size();
        console.line((records ? style.good(of + " equal" + byRules) : style.bad(of + " equal" + byRules))
                + style.faint(" " + Amounts.time(progress.elapsed())));
    }

    /** By what two places were compared. */
    private static String how(ReconcileResult result) {
        boolean some = result.sample().isPresent();
        long own = result.tables().stream().filter(ComparedTable::isByServers).count();
        if (own > 0 && own == result.tables().size()) {
            return "digests of every value, taken by both servers";
        }
        String how =
                switch (result.depth()) {
                    case COUNTS -> "counts";
                    case DIGESTS -> some ? "digests of the values of a sample" : "digests of every value";
                    case ROWS -> some ? "the values of a sample, record by record" : "every value, record by record";
                };
        return own == 0
                ? how
                : how + ", of " + Amounts.count(own, "table")
                        + (result.depth() == Depth.ROWS
                                ? " by digests that both servers took"
                                : " taken by both servers");
    }

    /** What a sample shows, and what it doesn't. */
    private void sampled(ReconcileResult result, long alike, ProgressLine progress) {
        SampleCount count = result.sample().orElseThrow();
        String of = Amounts.count(alike) + " of "
                + Amounts.count(result.tables().size(), "table") + " alike in a sample of "
                + count.percent().stripTrailingZeros().toPlainString() + " %.";
        console.line((alike == result.tables().size()
                        ? console.style().warning(of)
                        : console.style().bad(of))
                + console.style().faint(" " + Amounts.time(progress.elapsed())));
        console.line(Amounts.count(count.rows()) + " of " + Amounts.count(count.all(), "record")
                + " were compared; of the others only the number is known.");
    }

    private static String rows(OptionalLong count) {
        return count.isPresent() ? Amounts.count(count.getAsLong()) : "–";
    }

    private static String verdict(Style style, Verdict verdict) {
        return switch (verdict) {
            case EQUAL -> style.good("equal");
            case DIFFERENT -> style.bad("different");
            case MISSING_IN_TARGET -> style.bad("missing in target");
            case MISSING_IN_SOURCE -> style.bad("missing in source");
        };
    }

    private static boolean ruled(ReconcileResult result) {
        return result.tables().stream().anyMatch(t -> !t.rules().isEmpty());
    }

    /** What differs in a table, in short. */
    static String what(ComparedTable table, Depth depth) {
        List<String> parts = new ArrayList<>();
        table.rows().filter(r -> r.all() > 0).ifPresent(rows -> parts.add(DifferenceView.counts(rows)));
        String columns = columns(table, depth);
        if (!columns.isEmpty()) {
            parts.add((parts.isEmpty() ? "" : "in ") + columns);
        }
        table.rules()
                .forEach(r -> parts.add(
                        r.values() < 0
                                ? "not compared: " + r.rule().substring(r.rule().indexOf('=') + 1)
                                : "equal by " + r.rule() + ": " + Amounts.count(r.values(), "value")));
        return String.join("; ", parts);
    }

    private static String columns(ComparedTable table, Depth depth) {
        List<String> parts = new ArrayList<>(table.differing());
        table.onlyAtSource().forEach(c -> parts.add(c + " (only at the source)"));
        table.onlyAtTarget().forEach(c -> parts.add(c + " (only at the target)"));
        if (parts.isEmpty()
                && table.verdict() == Verdict.DIFFERENT
                && depth == Depth.DIGESTS
                && table.sourceRows().equals(table.targetRows())) {
            return "none alone: the same values stand in other records";
        }
        return String.join(", ", parts);
    }

    /** The same for machines. */
    static ObjectNode json(ReconcileResult result, List<RowDifference> first) {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("equal", result.isEqual());
        result.sample().ifPresent(c -> root.putObject("sample")
                .put("percent", c.percent())
                .put("records", c.rows())
                .put("of", c.all())
                .put("alike", result.isWithoutDifference()));
        root.put("depth", result.depth().name().toLowerCase(java.util.Locale.ROOT));
        ArrayNode array = root.putArray("tables");
        for (ComparedTable table : result.tables()) {
            ObjectNode node = array.addObject();
            node.put("table", table.table().toString());
            table.sourceRows().ifPresent(n -> node.put("sourceRows", n));
            table.targetRows().ifPresent(n -> node.put("targetRows", n));
            node.put(
                    "verdict",
                    table.verdict().name().toLowerCase(java.util.Locale.ROOT).replace('_', ' '));
            table.differing().forEach(node.putArray("differingColumns")::add);
            table.onlyAtSource().forEach(node.putArray("onlyAtSource")::add);
            table.onlyAtTarget().forEach(node.putArray("onlyAtTarget")::add);
            if (!table.totals().isEmpty()) {
                node.set("totals", TotalsView.json(table));
            }
            table.rows().ifPresent(rows -> node.putObject("records")
                    .put("missing", rows.missing())
                    .put("extra", rows.extra())
                    .put("different", rows.different()));
            if (!table.rules().isEmpty()) {
                ArrayNode applied = node.putArray("rules");
                table.rules()
                        .forEach(r -> applied.addObject().put("rule", r.rule()).put("values", r.values()));
            }
            if (result.depth() != Depth.COUNTS) {
                node.put("byServers", table.isByServers());
                node.put("sourceDigest", table.sourceDigest());
                node.put("targetDigest", table.targetDigest());
            }
        }
        if (result.depth() == Depth.ROWS) {
            root.set("differences", DifferenceView.json(first));
        }
        result.definitions().ifPresent(d -> root.set("definitions", StructureView.json(d)));
        root.set("findings", Report.findings(result.findings().stream()));
        return root;
    }
}
