package org.orderlyferry.cli.report;

import java.util.List;
import org.orderlyferry.cli.Amounts;
import org.orderlyferry.report.ComparedCounts;
import org.orderlyferry.report.DifferentValue;
import org.orderlyferry.report.RecordedComparison;
import org.orderlyferry.report.RecordedDefinition;
import org.orderlyferry.report.RecordedDefinitions;
import org.orderlyferry.report.RecordedDifference;
import org.orderlyferry.report.RecordedTotal;
import org.orderlyferry.report.RecordedTotals;
import org.orderlyferry.report.WorkRecord;
import org.orderlyferry.report.WorkStep;

/** What comparing has come to: records that differ, definitions, control totals. */
final class ProofSections {

    private static final int LONGEST_TOTAL = 40;

    private final WorkRecord work;

    ProofSections(WorkRecord work) {
        this.work = work;
    }

    static List<ComparedCounts> compared(WorkRecord work) {
        return work.proof().map(RecordedComparison::tables).orElse(List.of());
    }

    Section differences() {
        Section section = Section.of("differences", "Records that differ");
        for (WorkStep step : work.steps()) {
            RecordedComparison comparison = step.compared();
            if (comparison == null || comparison.differences().isEmpty()) {
                continue;
            }
            long all = comparison.tables().stream()
                    .mapToLong(ComparedCounts::differingRows)
                    .sum();
            int listed = comparison.differences().size();
            Grid grid = Grid.of(
                            listed < all
                                    ? "The first " + listed + " of " + Amounts.count(all)
                                    : "All " + Amounts.count(listed))
                    .left("table")
                    .left("record")
                    .left("column")
                    .left("at the source")
                    .left("at the target");
            comparison.differences().forEach(d -> difference(grid, d));
            section.grid(grid);
            if (!comparison.where().isEmpty()) {
                section.text("All of them are in " + comparison.where() + ".");
            }
        }
        return section;
    }

    private static void difference(Grid grid, RecordedDifference difference) {
        List<String> key = difference.key().stream()
                .map(v -> v.column() + "=" + value(v.source() == null ? v.target() : v.source()))
                .toList();
        Cell table = Cell.of(difference.table());
        Cell record = Cell.code(String.join(", ", key));
        switch (difference.kind()) {
            case "missing" -> grid.row(table, record, Cell.of(""), Cell.of("is there"), Cell.bad("missing"));
            case "extra" -> grid.row(table, record, Cell.of(""), Cell.of("isn't there"), Cell.bad("only there"));
            default -> {
                boolean first = true;
                for (DifferentValue value : difference.differing()) {
                    grid.row(
                            first ? table : Cell.of(""),
                            first ? record : Cell.of(""),
                            Cell.of(value.column()),
                            Cell.code(value(value.source())),
                            Cell.code(value(value.target())));
                    first = false;
                }
                if (difference.furtherColumns() > 0) {
                    grid.row(
                            Cell.of(""),
                            Cell.of(""),
                            Cell.of("and " + Amounts.count(difference.furtherColumns(), "column") + " more"),
                            Cell.of(""),
                            Cell.of(""));
                }
            }
        }
    }

    /** Quoted where blanks, nothing at all or the word null could be taken for something else. */
    static String value(String text) {
        if (text == null) {
            return "null";
        }
        boolean plain = !text.isEmpty() && text.equals(text.strip()) && !text.equals("null");
        return plain ? text : "'" + text + "'";
    }

    Section definitions() {
        Section section = Section.of("definitions", "Definitions");
        for (WorkStep step : work.steps()) {
            RecordedDefinitions compared =
                    step.compared() == null ? null : step.compared().definitions();
            if (compared != null) {
                section.text(
                        compared.equal()
                                ? "The target has all that it can have of the definitions of "
                                        + Amounts.count(compared.tables(), "table") + "."
                                : "The target doesn't have all that it could have.");
                section.grid(definitions("Differences", compared, false));
                section.grid(definitions("Forced by the target's system", compared, true));
                Grid ticks = Grid.of("Not carried by any load")
                        .left("state")
                        .left("kind")
                        .left("name")
                        .left("why");
                compared.leftBehind()
                        .forEach(t -> ticks.row(
                                t.made() ? Cell.good("made since") : Cell.bad("still missing"),
                                Cell.of(t.kind()),
                                Cell.of(t.name()),
                                Cell.of(t.made() ? "" : t.reason())));
                section.grid(ticks);
            }
        }
        return section;
    }

    private static Grid definitions(String caption, RecordedDefinitions compared, boolean forced) {
        List<RecordedDefinition> all = compared.differences().stream()
                .filter(d -> d.forced() == forced)
                .toList();
        Grid grid = Grid.of(caption + " (" + all.size() + ")")
                .left("table")
                .left("column")
                .left("part")
                .left("at the source")
                .left("at the target");
        all.forEach(d -> grid.row(
                Cell.of(d.table()),
                Cell.of(d.column()),
                Cell.of(d.part()),
                Cell.code(d.source().isEmpty() ? "–" : d.source()),
                Cell.code(d.target().isEmpty() ? "–" : d.target())));
        return grid;
    }

    Section totals() {
        Section section = Section.of("totals", "Control totals");
        Grid grid = Grid.of("Of each column, computed from its values as they were read")
                .left("table")
                .left("column")
                .left("side")
                .right("values")
                .right("nulls")
                .left("smallest")
                .left("largest")
                .right("sum")
                .right("length")
                .left("by its own SQL");
        for (ComparedCounts table : compared(work)) {
            String name = table.table();
            for (RecordedTotals totals : table.totals()) {
                if (totals.equal()) {
                    total(grid, name, totals.column(), Cell.good("both"), totals.source(), both(totals));
                } else {
                    total(
                            grid,
                            name,
                            totals.column(),
                            Cell.bad("source"),
                            totals.source(),
                            said(totals.sourceConfirmed()));
                    total(grid, "", "", Cell.bad("target"), totals.target(), said(totals.targetConfirmed()));
                }
                name = "";
            }
        }
        return section.grid(grid.withoutEmptyColumns());
    }

    private static Cell said(Boolean confirmed) {
        return confirmed == null ? Cell.of("") : confirmed ? Cell.good("the same") : Cell.bad("otherwise");
    }

    private static Cell both(RecordedTotals totals) {
        boolean contradicted =
                Boolean.FALSE.equals(totals.sourceConfirmed()) || Boolean.FALSE.equals(totals.targetConfirmed());
        return contradicted
                ? Cell.bad("otherwise")
                : said(totals.sourceConfirmed() == null ? totals.targetConfirmed() : totals.sourceConfirmed());
    }

    private static void total(Grid grid, String table, String column, Cell side, RecordedTotal total, Cell confirmed) {
        grid.row(
                Cell.of(table),
                Cell.of(column),
                side,
                Cell.of(Amounts.count(total.values())),
                Cell.of(Amounts.count(total.nulls())),
                Cell.code(total.smallest() == null ? "" : value(cut(total.smallest()))),
                Cell.code(total.largest() == null ? "" : value(cut(total.largest()))),
                Cell.code(total.sum() == null ? "" : cut(total.sum())),
                Cell.of(total.length() == null ? "" : Amounts.count(total.length())),
                confirmed);
    }

    private static String cut(String text) {
        return text.codePointCount(0, text.length()) <= LONGEST_TOTAL
                ? text
                : text.substring(0, text.offsetByCodePoints(0, LONGEST_TOTAL)) + "…";
    }
}
