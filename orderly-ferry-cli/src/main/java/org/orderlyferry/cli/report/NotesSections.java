package org.orderlyferry.cli.report;

import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.orderlyferry.cli.Amounts;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.report.RecordedFinding;
import org.orderlyferry.report.RecordedRejects;
import org.orderlyferry.report.RecordedThing;
import org.orderlyferry.report.RejectGroup;
import org.orderlyferry.report.RejectSample;
import org.orderlyferry.report.WorkRecord;

/** What a person should know: rejects by their reasons, findings by severity, what was left behind. */
final class NotesSections {

    private final WorkRecord work;

    NotesSections(WorkRecord work) {
        this.work = work;
    }

    Section rejects() {
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
                .left("first of them, by line or key");
        for (RejectGroup group : rejects.groups()) {
            grid.row(
                    Cell.of(group.table()),
                    Cell.of(group.column()),
                    Cell.of(group.reason()),
                    Cell.of(Amounts.count(group.count())),
                    Cell.code(String.join(
                            "; ",
                            group.first().stream().map(NotesSections::sample).toList())));
        }
        section.grid(grid);
        if (rejects.furtherGroups() > 0) {
            section.text(Amounts.count(rejects.furtherGroups(), "record") + " more, for other reasons, aren't listed.");
        }
        return section.text("Each of them stands with its reason in " + rejects.file() + ".");
    }

    private static String sample(RejectSample sample) {
        String which = sample.key() == null ? Long.toString(sample.line()) : sample.key();
        return which + (sample.value() == null ? "" : ": " + ProofSections.value(sample.value()));
    }

    Section findings() {
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

    Section leftBehind() {
        Set<RecordedThing> all = new LinkedHashSet<>();
        // a load knows what the set lacks, and what of that the target has all the same
        work.steps().stream()
                .filter(s -> s.step().equals(LedgerLine.Step.LOAD.word()))
                .forEach(s -> all.addAll(s.leftBehind()));
        if (all.isEmpty()) {
            work.steps().forEach(s -> all.addAll(s.leftBehind()));
        }
        Grid grid = Grid.of("To be made at the target by hand, where it is needed (" + all.size() + ")")
                .left("kind")
                .left("name")
                .left("why it stays, and what to do");
        all.forEach(t -> grid.row(Cell.of(t.kind()), Cell.of(t.name()), Cell.of(t.reason())));
        return Section.of("left-behind", "Left behind").grid(grid);
    }
}
