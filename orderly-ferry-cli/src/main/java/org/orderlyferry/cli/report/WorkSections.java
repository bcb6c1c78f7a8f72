package org.orderlyferry.cli.report;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.orderlyferry.cli.Amounts;
import org.orderlyferry.cli.Argument;
import org.orderlyferry.cli.Escapes;
import org.orderlyferry.report.ComparedCounts;
import org.orderlyferry.report.RecordedSet;
import org.orderlyferry.report.SetFile;
import org.orderlyferry.report.WorkKind;
import org.orderlyferry.report.WorkRecord;
import org.orderlyferry.report.WorkStep;

/** How the work went: its steps and their times, what happened on the way, its files and settings. */
final class WorkSections {

    private final WorkRecord work;

    WorkSections(WorkRecord work) {
        this.work = work;
    }

    Section overview() {
        Section section = Section.of("overview", "At a glance");
        List<ComparedCounts> compared = ProofSections.compared(work);
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

    Section steps() {
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
                    Cell.of(LayoutOf.MOMENT.format(step.began())),
                    Cell.of(Seconds.of(step.seconds())),
                    Cell.of(rows == 0 ? "" : Amounts.count(rows)),
                    Cell.of(rows == 0 || step.seconds() <= 0 ? "" : Amounts.count(Math.round(rows / step.seconds()))),
                    Cell.of(most == 0 ? "" : Amounts.count(Math.round(most))),
                    Cell.of(slices == 0 ? "" : Amounts.count(slices)),
                    Cell.of(longest == 0 ? "" : Seconds.of(longest)),
                    Cell.of(step.retries() == 0 ? "" : Amounts.count(step.retries())),
                    Cell.of(said(step)));
        }
        section.grid(grid.withoutEmptyColumns());
        Grid events = Grid.of("On the way").left("when").left("what");
        work.events().forEach(e -> events.row(Cell.of(LayoutOf.MOMENT.format(e.at())), Cell.of(e.text())));
        return section.grid(events);
    }

    /** What a ledger says of a step that isn't told elsewhere. */
    private static String said(WorkStep step) {
        Map<String, String> facts = step.facts();
        List<String> parts = new ArrayList<>();
        if (step.step().equals("delete")) {
            parts.add(facts.getOrDefault("rows", "0")
                    + (facts.getOrDefault("rows", "0").equals("1") ? " record" : " records")
                    + " taken out of the target");
        }
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

    Section files() {
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

    Section settings() {
        Grid grid = Grid.of("As it was told").left("setting").left("value");
        work.settings().forEach((name, value) -> grid.row(Cell.of(name), Cell.of(value)));
        return Section.of("settings", work.kind() == WorkKind.RUN ? "The crossing's settings" : "Settings")
                .grid(grid);
    }
}
