package org.orderlyferry.cli.report;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.cli.Amounts;
import org.orderlyferry.reconcile.Verdict;
import org.orderlyferry.report.ComparedCounts;

/** Which share of the tables is equal. */
final class ShareChart {

    private static final int WIDTH = 760;
    private static final int BAR = 26;
    private static final double NARROWEST = 2;

    private ShareChart() {}

    /** A part of all tables. */
    private record Part(String what, long count, String look) {}

    static Chart of(List<ComparedCounts> tables) {
        List<Part> parts = new ArrayList<>();
        add(parts, "equal", tables, Verdict.EQUAL, "good");
        add(parts, "different", tables, Verdict.DIFFERENT, "bad");
        add(parts, "missing in the target", tables, Verdict.MISSING_IN_TARGET, "bad strong");
        add(parts, "only in the target", tables, Verdict.MISSING_IN_SOURCE, "bad faint");
        String said = String.join(
                ", ",
                parts.stream()
                        .map(p -> Amounts.count(p.count()) + " " + p.what())
                        .toList());
        Chart chart = Chart.of(
                "share",
                "Tables that are equal",
                "Of " + Amounts.count(tables.size(), "table") + ": " + said,
                WIDTH,
                BAR);
        double x = 0;
        for (Part part : parts) {
            double width = Math.max(NARROWEST, (double) WIDTH * part.count() / tables.size());
            chart.box(x, 0, Math.min(width, WIDTH - x), BAR, part.look(), part.what() + ": " + part.count());
            x += width;
        }
        return chart;
    }

    private static void add(List<Part> parts, String what, List<ComparedCounts> tables, Verdict verdict, String look) {
        long count = tables.stream().filter(t -> t.verdict() == verdict).count();
        if (count > 0) {
            parts.add(new Part(what, count, look));
        }
    }
}
