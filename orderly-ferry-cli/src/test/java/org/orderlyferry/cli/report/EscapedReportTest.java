package org.orderlyferry.cli.report;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Verdict;
import org.orderlyferry.report.ComparedCounts;
import org.orderlyferry.report.DifferentValue;
import org.orderlyferry.report.PaceSample;
import org.orderlyferry.report.RecordedComparison;
import org.orderlyferry.report.RecordedDefinition;
import org.orderlyferry.report.RecordedDefinitions;
import org.orderlyferry.report.RecordedDifference;
import org.orderlyferry.report.RecordedEnd;
import org.orderlyferry.report.RecordedEvent;
import org.orderlyferry.report.RecordedFinding;
import org.orderlyferry.report.RecordedRejects;
import org.orderlyferry.report.RecordedSet;
import org.orderlyferry.report.RecordedThing;
import org.orderlyferry.report.RecordedTick;
import org.orderlyferry.report.RejectGroup;
import org.orderlyferry.report.RejectSample;
import org.orderlyferry.report.SetFile;
import org.orderlyferry.report.SliceTime;
import org.orderlyferry.report.Software;
import org.orderlyferry.report.WorkKind;
import org.orderlyferry.report.WorkRecord;
import org.orderlyferry.report.WorkStatus;
import org.orderlyferry.report.WorkStep;

/** A text that stands wherever a record can hold one changes nothing of a page but what it says, nor of a text for tickets. */
class EscapedReportTest {

    private static final Instant NIGHT = Instant.parse("2031-05-02T23:10:00Z");

    /** Inside of a line, in front of what would mean something, is a backslash. */
    private static final Pattern BARE = Pattern.compile("(?<!\\\\)[<\\[\\]`]");

    @Provide
    Arbitrary<String> texts() {
        Arbitrary<String> evil = Arbitraries.of(
                "</style><script>alert(1)</script>",
                "\"><img src=x onerror=alert(1)>",
                "' onmouseover='alert(1)",
                "{{#layout}}{{title}}{{/layout}}",
                "{{{style}}}",
                "]]><!--",
                "&lt;b&gt;",
                "[x](javascript:alert(1))",
                "![x](http://elsewhere.example/x.png)",
                "`code` **bold** ~~gone~~",
                "a | b\n# heading\n- item",
                "\u202Egnp.exe",
                "\u001b[31m\u0007",
                "http://elsewhere.example www.elsewhere.example @someone #7");
        return Arbitraries.oneOf(
                evil, Arbitraries.strings().all().ofMinLength(1).ofMaxLength(40));
    }

    private static WorkRecord everywhere(String text) {
        ComparedCounts compared = new ComparedCounts(
                text,
                Verdict.DIFFERENT,
                2L,
                1L,
                List.of(text),
                List.of(text),
                List.of(text),
                text,
                text,
                1L,
                0L,
                1L,
                List.of(),
                List.of());
        RecordedComparison comparison = new RecordedComparison(
                "source and target",
                Depth.ROWS,
                false,
                List.of(compared),
                List.of(
                        new RecordedDifference(
                                text, "missing", List.of(new DifferentValue(text, text, null)), List.of(), 0),
                        new RecordedDifference(
                                text,
                                "different",
                                List.of(new DifferentValue(text, text, text)),
                                List.of(new DifferentValue(text, text, null)),
                                3)),
                text,
                new RecordedDefinitions(
                        1,
                        false,
                        List.of(new RecordedDefinition(text, text, text, text, text, false)),
                        List.of(new RecordedTick(text, text, text, false))),
                null,
                null);
        WorkStep step = new WorkStep(
                text,
                NIGHT,
                2,
                Map.of("why", text, "sql", text),
                List.of(),
                List.of(),
                comparison,
                List.of(new SliceTime(text, 0.5, 1)),
                0,
                0,
                List.of(new PaceSample(0, 1, 5, 5)),
                List.of(new RecordedFinding(text, FindingCode.Severity.WARNING, text, text, text)),
                List.of(new RecordedThing(text, text, text)),
                Map.of(text, text));
        return new WorkRecord(
                WorkRecord.VERSION,
                WorkKind.RUN,
                text,
                WorkStatus.FINISHED,
                new Software(text, text, text),
                NIGHT,
                NIGHT,
                new RecordedEnd(text, text),
                new RecordedEnd(text, text),
                Map.of(text, text),
                List.of(step),
                List.of(new RecordedEvent(NIGHT, text)),
                new RecordedRejects(
                        text,
                        1,
                        List.of(new RejectGroup(text, text, text, 1, List.of(new RejectSample(text, 1, text, text)))),
                        0),
                new RecordedSet(text, List.of(new SetFile(text, 1, text)), 0));
    }

    /** Each element with the names of its attributes, in their order. */
    private static List<String> shape(Document page) {
        return page.getAllElements().stream()
                .map(e -> e.normalName() + " "
                        + e.attributes().asList().stream().map(a -> a.getKey()).toList())
                .toList();
    }

    private static Document page(String text) {
        return Jsoup.parse(ReportWriter.write(everywhere(text), ReportForm.HTML, NIGHT));
    }

    @Property(tries = 150)
    void aPageKeepsItsShape(@ForAll("texts") String text) {
        Document page = page(text);
        assertThat(shape(page)).isEqualTo(shape(page("plain")));
        Set<String> ids = new HashSet<>();
        page.select("[id]").forEach(e -> assertThat(ids.add(e.id())).isTrue());
        assertThat(page.outerHtml().chars())
                .as("nothing that a terminal or a writer obeys is left")
                .noneMatch(c -> c == 0x1b || c == 7 || c == 0 || c >= 0x202A && c <= 0x202E);
    }

    @Property(tries = 150)
    void aTextForTicketsKeepsItsLines(@ForAll("texts") String text) {
        List<String> lines = lines(text);
        assertThat(lines).hasSameSizeAs(lines("plain"));
        boolean shell = false;
        for (String line : lines) {
            shell ^= line.startsWith("```");
            if (!shell && !line.startsWith("```")) {
                assertThat(line).doesNotContainPattern(BARE).doesNotContain("http://", "www.", " @", "|@");
            }
        }
    }

    private static List<String> lines(String text) {
        return ReportWriter.write(everywhere(text), ReportForm.MARKDOWN, NIGHT)
                .lines()
                .toList();
    }
}
