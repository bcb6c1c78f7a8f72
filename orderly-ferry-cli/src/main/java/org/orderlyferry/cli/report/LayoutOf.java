package org.orderlyferry.cli.report;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import org.orderlyferry.cli.Amounts;
import org.orderlyferry.report.Conclusion;
import org.orderlyferry.report.Software;
import org.orderlyferry.report.TableCounts;
import org.orderlyferry.report.WorkRecord;
import org.orderlyferry.report.WorkStep;

/** Lays a record out as a report. */
final class LayoutOf {

    /** A moment as a report shows it. */
    static final DateTimeFormatter MOMENT = DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm:ss 'UTC'", Locale.ROOT)
            .withZone(ZoneOffset.UTC);

    private final WorkRecord work;
    private final List<TableCounts> tables;

    LayoutOf(WorkRecord work) {
        this.work = work;
        this.tables = work.tables();
    }

    Layout layout(Instant now) {
        Conclusion conclusion = work.conclusion();
        ProofSections proof = new ProofSections(work);
        NotesSections notes = new NotesSections(work);
        WorkSections way = new WorkSections(work);
        List<Section> sections = Stream.of(
                        way.overview(),
                        new CountsSection(tables, work.kind()).section(),
                        proof.differences(),
                        notes.rejects(),
                        notes.findings(),
                        proof.definitions(),
                        notes.leftBehind(),
                        proof.totals(),
                        way.steps(),
                        way.files(),
                        way.settings())
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
}
