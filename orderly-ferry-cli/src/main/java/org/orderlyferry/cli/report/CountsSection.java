package org.orderlyferry.cli.report;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.cli.Amounts;
import org.orderlyferry.reconcile.Verdict;
import org.orderlyferry.report.ComparedCounts;
import org.orderlyferry.report.RecordedRule;
import org.orderlyferry.report.TableCounts;
import org.orderlyferry.report.WorkKind;

/** The counts of each table at every hop, those that need a person first. */
final class CountsSection {

    private final List<TableCounts> tables;
    private final String leftOut;

    /**
     * Of a piece of work.
     *
     * @param kind a catch-up leaves out what is as it was, and everything else what a condition says
     */
    CountsSection(List<TableCounts> tables, WorkKind kind) {
        this.tables = tables;
        this.leftOut = kind == WorkKind.CATCH_UP ? "as they were" : "left out";
    }

    Section section() {
        Section section = Section.of("counts", "Counts at every hop");
        List<TableCounts> first =
                tables.stream().filter(TableCounts::needsAPerson).toList();
        List<TableCounts> others =
                tables.stream().filter(t -> !t.needsAPerson()).toList();
        if (!first.isEmpty()) {
            section.grid(grid("Tables that a person must look at (" + Amounts.count(first.size()) + ")", first));
        }
        if (!others.isEmpty()) {
            boolean compared = others.stream().anyMatch(t -> t.compared() != null);
            section.grid(grid(
                    first.isEmpty()
                            ? "All tables (" + Amounts.count(others.size()) + ")"
                            : (compared ? "Tables that are equal (" : "All others (") + Amounts.count(others.size())
                                    + ")",
                    others));
        }
        List<String> wrong = tables.stream()
                .flatMap(t -> t.wrong().stream().map(w -> "Table " + t.table() + ": " + w + "."))
                .toList();
        wrong.forEach(section::text);
        boolean moved = tables.stream().anyMatch(t -> t.written() != null || t.loaded() != null);
        if (moved && wrong.isEmpty()) {
            section.text("Each number was counted where it stands, and they add up.");
        }
        return section;
    }

    private Grid grid(String caption, List<TableCounts> tables) {
        Grid grid = Grid.of(caption)
                .left("table")
                .right("at the source")
                .right("read")
                .right("rejected")
                .right(leftOut)
                .right("in files")
                .right("in the set")
                .right("read from it")
                .right("loaded")
                .right("new")
                .right("changed")
                .right("there before")
                .right("in the target")
                .right("size")
                .right("time")
                .left("digest")
                .left("verdict")
                .left("what differs");
        for (TableCounts table : tables) {
            ComparedCounts compared = table.compared();
            grid.row(List.of(
                    Cell.of(table.table()),
                    number(compared != null && table.source() == null ? null : table.source()),
                    number(table.read()),
                    unlessNone(table.rejected()),
                    unlessNone(table.leftOut()),
                    number(table.written()),
                    number(table.inSet()),
                    number(table.readFromSet()),
                    number(table.loaded()),
                    number(table.inserted()),
                    number(table.updated()),
                    number(table.before()),
                    table.addsUp()
                            ? number(table.target())
                            : Cell.bad(number(table.target()).text()),
                    Cell.of(table.bytes() == 0 ? "" : Amounts.bytes(table.bytes())),
                    Cell.of(table.seconds() == 0 ? "" : Seconds.of(table.seconds())),
                    digest(compared),
                    verdict(table),
                    Cell.of(compared == null ? "" : what(compared))));
        }
        return grid.withoutEmptyColumns();
    }

    private static Cell number(Long count) {
        return Cell.of(count == null ? "" : Amounts.count(count));
    }

    private static Cell unlessNone(Long count) {
        return Cell.of(count == null || count == 0 ? "" : Amounts.count(count));
    }

    private static Cell digest(ComparedCounts compared) {
        if (compared == null || compared.sourceDigest().isEmpty()) {
            return Cell.of("");
        }
        return Cell.sum(
                compared.sourceDigest().equals(compared.targetDigest())
                        ? compared.sourceDigest()
                        : compared.sourceDigest() + " / " + compared.targetDigest());
    }

    private static Cell verdict(TableCounts table) {
        if (!table.addsUp()) {
            return Cell.bad("doesn't add up");
        }
        return table.compared() == null ? Cell.of("") : verdict(table.compared().verdict());
    }

    static Cell verdict(Verdict verdict) {
        return switch (verdict) {
            case EQUAL -> Cell.good("equal");
            case DIFFERENT -> Cell.bad("different");
            case MISSING_IN_TARGET -> Cell.bad("missing in the target");
            case MISSING_IN_SOURCE -> Cell.bad("only in the target");
        };
    }

    private static String what(ComparedCounts table) {
        List<String> parts = new ArrayList<>();
        add(parts, table.missing(), "missing");
        add(parts, table.extra(), "only there");
        add(parts, table.different(), "different");
        if (!table.differingColumns().isEmpty()) {
            parts.add("in " + String.join(", ", table.differingColumns()));
        }
        table.onlyAtSource().forEach(c -> parts.add("column " + c + " only at the source"));
        table.onlyAtTarget().forEach(c -> parts.add("column " + c + " only at the target"));
        for (RecordedRule rule : table.rules()) {
            parts.add(
                    rule.values() < 0
                            ? "not compared: "
                                    + rule.rule().substring(rule.rule().indexOf('=') + 1)
                            : "equal by " + rule.rule() + ": " + Amounts.count(rule.values(), "value"));
        }
        return String.join("; ", parts);
    }

    private static void add(List<String> parts, Long count, String what) {
        if (count != null && count > 0) {
            parts.add(Amounts.count(count) + " " + what);
        }
    }
}
