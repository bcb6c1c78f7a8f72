package org.orderlyferry.cli.report;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.orderlyferry.cli.Amounts;
import org.orderlyferry.cli.Argument;
import org.orderlyferry.cli.Escapes;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.report.ComparedCounts;
import org.orderlyferry.report.Conclusion;
import org.orderlyferry.report.DifferentValue;
import org.orderlyferry.report.RecordedComparison;
import org.orderlyferry.report.RecordedDefinition;
import org.orderlyferry.report.RecordedDefinitions;
import org.orderlyferry.report.RecordedDifference;
import org.orderlyferry.report.RecordedFinding;
import org.orderlyferry.report.RecordedRejects;
import org.orderlyferry.report.RecordedSet;
import org.orderlyferry.report.RecordedThing;
import org.orderlyferry.report.RecordedTotal;
import org.orderlyferry.report.RecordedTotals;
import org.orderlyferry.report.RejectGroup;
import org.orderlyferry.report.RejectSample;
import org.orderlyferry.report.SetFile;
import org.orderlyferry.report.Software;
import org.orderlyferry.report.TableCounts;
import org.orderlyferry.report.WorkKind;
import org.orderlyferry.report.WorkRecord;
import org.orderlyferry.report.WorkStep;

/** Lays a record out as a report. */
final class LayoutOf {

    private static final DateTimeFormatter MOMENT = DateTimeFormatter.ofPattern(
                    "uuuu-MM-dd HH:mm:ss 'UTC'", Locale.ROOT)
            .withZone(ZoneOffset.UTC);

    private final WorkRecord work;
    private final List<TableCounts> tables;

    LayoutOf(WorkRecord work) {
        this.work = work;
        this.tables = work.tables();
    }

    Layout layout(Instant now) {
        Conclusion conclusion = work.conclusion();
        List<Section> sections = Stream.of(
                        overview(),
                        new CountsSection(tables).section(),
                        differences(),
                        rejects(),
                        findings(),
                        definitions(),
                        leftBehind(),
                        totals(),
                        steps(),
                        files(),
                        settings())
                .filter(s -> !s.isEmpty())
                .toList();
        return new Layout(
                title(),
                mark(conclusion),
                conclusion.text(),
                facts(),
                sections,
                List.of("Moved and checked by", "For the owner of the data", "For the old system's operation"),
                "Made " + MOMENT.format(now) + " from the record of the work.");
    }

    static String mark(Conclusion conclusion) {
        return switch (conclusion.mark()) {
            case PROVED -> "good";
            case DONE -> "open";
            case WRONG -> "bad";
        };
    }

    private String title() {
        String what =
                switch (work.kind()) {
                    case RUN -> "Run";
                    case CATCH_UP -> "Catch-up";
                    case EXPORT -> "Export";
                    case LOAD -> "Load";
                    case RECONCILE -> "Comparison";
                };
        return what + " of " + MOMENT.format(work.began());
    }

    private static String shown(String address, String system) {
        return system.isEmpty() ? address : address + " (" + system + ")";
    }

    private List<Layout.Fact> facts() {
        List<Layout.Fact> facts = new ArrayList<>();
        facts.add(new Layout.Fact(
                "From", shown(work.source().address(), work.source().system())));
        facts.add(new Layout.Fact(
                "To", shown(work.target().address(), work.target().system())));
        double worked = work.steps().stream().mapToDouble(WorkStep::seconds).sum();
        String ended = work.ended() == null ? "" : ", ended " + MOMENT.format(work.ended());
        boolean paused = work.ended() != null
                && Duration.between(work.began(), work.ended()).toMillis() / 1000.0 > worked + 60;
        facts.add(new Layout.Fact(
                "When",
                "began " + MOMENT.format(work.began()) + ended + "; worked " + Seconds.of(worked)
                        + (paused ? ", with pauses" : "")));
        long rows = tables.stream().mapToLong(LayoutOf::rows).sum();
        long bytes = tables.stream().mapToLong(TableCounts::bytes).sum();
        facts.add(new Layout.Fact(
                "How much",
                Amounts.count(tables.size(), "table") + ", " + Amounts.count(rows, "record")
                        + (bytes == 0 ? "" : ", " + Amounts.bytes(bytes))));
        Software by = work.software();
        if (!by.version().isEmpty()) {
            facts.add(new Layout.Fact(
                    "By", "Orderly Ferry " + by.version() + ", Java " + by.java() + ", " + by.system()));
        }
        return facts;
    }

    private static long rows(TableCounts table) {
        return Stream.of(table.loaded(), table.written(), table.inSet(), table.target())
                .filter(n -> n != null)
                .findFirst()
                .orElse(0L);
    }

    private List<ComparedCounts> compared() {
        List<ComparedCounts> compared = new ArrayList<>();
        for (WorkStep step : work.steps()) {
            if (step.compared() != null) {
                compared.clear();
                compared.addAll(step.compared().tables());
            }
        }
        return compared;
    }

    private Section overview() {
        Section section = Section.of("overview", "At a glance");
        List<ComparedCounts> compared = compared();
        if (!compared.isEmpty()) {
            section.chart(ShareChart.of(compared));
        }
        List<WorkStep> timed =
                work.steps().stream().filter(s -> s.seconds() > 0).toList();
        if (!timed.isEmpty()) {
            section.chart(StepChart.of(timed));
        }
        if (timed.stream().anyMatch(s -> !s.pace().isEmpty())) {
            section.chart(PaceChart.of(timed));
        }
        return section;
    }

    private Section differences() {
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
    private static String value(String text) {
        if (text == null) {
            return "null";
        }
        boolean plain = !text.isEmpty() && text.equals(text.strip()) && !text.equals("null");
        return plain ? text : "'" + text + "'";
    }

    private Section rejects() {
        Section section = Section.of("rejects", "Rejected records");
        RecordedRejects rejects = work.rejects();
        if (rejects == null) {
            return section;
        }
        Grid grid = Grid.of(Amounts.count(rejects.count()) + " by reason")
                .left("table")
                .left("column")
                .left("reason")
                .right("records")
                .left("first of them, by line or record");
        for (RejectGroup group : rejects.groups()) {
            grid.row(
                    Cell.of(group.table()),
                    Cell.of(group.column()),
                    Cell.of(group.reason()),
                    Cell.of(Amounts.count(group.count())),
                    Cell.code(String.join(
                            "; ", group.first().stream().map(LayoutOf::sample).toList())));
        }
        section.grid(grid);
        if (rejects.furtherGroups() > 0) {
            section.text(Amounts.count(rejects.furtherGroups(), "record") + " more, for other reasons, aren't listed.");
        }
        return section.text("Each of them stands with its reason in " + rejects.file() + ".");
    }

    private static String sample(RejectSample sample) {
        return sample.line() + (sample.value() == null ? "" : ": " + value(sample.value()));
    }

    private Section findings() {
        Section section = Section.of("findings", "To be known");
        Set<RecordedFinding> all = new LinkedHashSet<>();
        work.steps().forEach(s -> all.addAll(s.findings()));
        for (FindingCode.Severity severity : FindingCode.Severity.values()) {
            List<RecordedFinding> of =
                    all.stream().filter(f -> f.severity() == severity).toList();
            String caption =
                    switch (severity) {
                        case ERROR -> "Errors: not done, or not wholly";
                        case WARNING -> "Warnings: done, and something is otherwise than it was";
                        case NOTE -> "Notes";
                    };
            Grid grid = Grid.of(caption + " (" + of.size() + ")")
                    .left("kind")
                    .left("table")
                    .left("column")
                    .left("what");
            of.forEach(f -> grid.row(Cell.code(f.code()), Cell.of(f.table()), Cell.of(f.column()), Cell.of(f.text())));
            section.grid(grid.withoutEmptyColumns());
        }
        Map<String, String> failed = new LinkedHashMap<>();
        work.steps().forEach(s -> failed.putAll(s.failed()));
        Grid grid = Grid.of("Tables that couldn't be read (" + failed.size() + ")")
                .left("table")
                .left("why");
        failed.forEach((table, why) -> grid.row(Cell.of(table), Cell.of(why)));
        return section.grid(grid);
    }

    private Section definitions() {
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

    private Section leftBehind() {
        Set<RecordedThing> all = new LinkedHashSet<>();
        work.steps().forEach(s -> all.addAll(s.leftBehind()));
        Grid grid = Grid.of("To be made at the target by hand, where it is needed (" + all.size() + ")")
                .left("kind")
                .left("name")
                .left("why it stays, and what to do");
        all.forEach(t -> grid.row(Cell.of(t.kind()), Cell.of(t.name()), Cell.of(t.reason())));
        return Section.of("left-behind", "Left behind").grid(grid);
    }

    private Section totals() {
        Section section = Section.of("totals", "Control totals");
        Grid grid = Grid.of("Of each column, computed from its values as they were read")
                .left("table")
                .left("column")
                .left("side")
                .right("values")
                .right("nulls")
                .right("smallest")
                .right("largest")
                .right("sum")
                .right("length");
        for (ComparedCounts table : compared()) {
            String name = table.table();
            for (RecordedTotals totals : table.totals()) {
                if (totals.equal()) {
                    total(grid, name, totals.column(), Cell.good("both"), totals.source());
                } else {
                    total(grid, name, totals.column(), Cell.bad("source"), totals.source());
                    total(grid, "", "", Cell.bad("target"), totals.target());
                }
                name = "";
            }
        }
        return section.grid(grid.withoutEmptyColumns());
    }

    private static void total(Grid grid, String table, String column, Cell side, RecordedTotal total) {
        grid.row(
                Cell.of(table),
                Cell.of(column),
                side,
                Cell.of(Amounts.count(total.values())),
                Cell.of(Amounts.count(total.nulls())),
                Cell.code(total.smallest() == null ? "" : value(total.smallest())),
                Cell.code(total.largest() == null ? "" : value(total.largest())),
                Cell.code(total.sum() == null ? "" : total.sum()),
                Cell.of(total.length() == null ? "" : Amounts.count(total.length())));
    }

    private Section steps() {
        Section section = Section.of("steps", "Steps, and what happened on the way");
        Grid grid = Grid.of("Steps")
                .left("step")
                .left("began")
                .right("took")
                .right("records")
                .right("a second")
                .right("at most")
                .right("slices")
                .right("longest")
                .right("tried again")
                .left("what");
        for (WorkStep step : work.steps()) {
            long rows =
                    step.pace().stream().mapToLong(p -> Math.max(0, p.rows())).sum();
            double most =
                    step.pace().stream().mapToDouble(PaceChart::rate).max().orElse(0);
            double longest =
                    step.slices().stream().mapToDouble(s -> s.seconds()).max().orElse(0);
            long slices = step.slices().size() + step.furtherSlices();
            grid.row(
                    Cell.of(step.step()),
                    Cell.of(MOMENT.format(step.began())),
                    Cell.of(Seconds.of(step.seconds())),
                    Cell.of(rows == 0 ? "" : Amounts.count(rows)),
                    Cell.of(rows == 0 || step.seconds() <= 0 ? "" : Amounts.count(Math.round(rows / step.seconds()))),
                    Cell.of(most == 0 ? "" : Amounts.count(Math.round(most))),
                    Cell.of(slices == 0 ? "" : Amounts.count(slices)),
                    Cell.of(longest == 0 ? "" : Seconds.of(longest)),
                    Cell.of(step.retries() == 0 ? "" : Amounts.count(step.retries())),
                    Cell.of(said(step.facts())));
        }
        section.grid(grid.withoutEmptyColumns());
        Grid events = Grid.of("On the way").left("when").left("what");
        work.events().forEach(e -> events.row(Cell.of(MOMENT.format(e.at())), Cell.of(e.text())));
        return section.grid(events);
    }

    /** What a ledger says of a step that isn't told elsewhere. */
    private static String said(Map<String, String> facts) {
        List<String> parts = new ArrayList<>();
        for (String name :
                List.of("number", "sql", "why", "found", "between", "depth", "equal", "removed", "restored")) {
            String fact = facts.getOrDefault(name, "");
            if (!fact.isEmpty()) {
                parts.add(
                        switch (name) {
                            case "number" -> "statement " + fact;
                            case "depth" -> "by " + fact;
                            case "equal" -> fact.equals("true") ? "equal" : "different";
                            case "removed", "restored" -> name + ": " + fact.replace("\n", ", ");
                            default -> fact;
                        });
            }
        }
        return String.join("; ", parts);
    }

    private Section files() {
        Section section = Section.of("files", "Files, and how anyone can check them");
        RecordedSet set = work.set();
        if (set == null) {
            return section;
        }
        section.text(
                "The export set is in " + set.folder() + ". It is a bag (RFC 8493); these commands check it without"
                        + " Orderly Ferry, and say OK for each file:");
        section.commands(
                // a line of a shell, whatever the folder is called
                "cd " + Escapes.shown(Argument.of(set.folder())).replace("\n", "\\n"),
                "sha256sum --check manifest-sha256.txt",
                "sha256sum --check tagmanifest-sha256.txt");
        Grid grid = Grid.of("Data files (" + Amounts.count(set.files().size() + set.furtherFiles()) + ")")
                .left("file")
                .right("bytes")
                .left("SHA-256");
        for (SetFile file : set.files()) {
            grid.row(
                    Cell.of(file.path()),
                    file.bytes() < 0 ? Cell.bad("missing") : Cell.of(Amounts.count(file.bytes())),
                    Cell.sum(file.sha256()));
        }
        section.grid(grid);
        return set.furtherFiles() == 0
                ? section
                : section.text(Amounts.count(set.furtherFiles(), "file") + " more are in the set's manifest.");
    }

    private Section settings() {
        Grid grid = Grid.of("As it was told").left("setting").left("value");
        work.settings().forEach((name, value) -> grid.row(Cell.of(name), Cell.of(value)));
        return Section.of("settings", work.kind() == WorkKind.RUN ? "The crossing's settings" : "Settings")
                .grid(grid);
    }
}
