package org.orderlyferry.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Verdict;

/** Records: what they hold, what their counts say, and files that aren't quite records. */
class WorkRecordTest {

    private static final Instant NIGHT = Instant.parse("2031-05-02T23:10:00Z");

    @TempDir
    private Path folder;

    private static MovedCounts moved(long read, long written, long rejected, long leftOut) {
        return new MovedCounts("loan", read, written, rejected, leftOut, 10, "d", 0.5, null, null);
    }

    private static ComparedCounts compared(Long source, Long target) {
        return new ComparedCounts(
                "loan",
                source.equals(target) ? Verdict.EQUAL : Verdict.DIFFERENT,
                source,
                target,
                List.of(),
                List.of(),
                List.of(),
                "",
                "",
                null,
                null,
                null,
                List.of(),
                List.of());
    }

    private static WorkStep step(String name, MovedCounts moved, Long kept, RecordedComparison compared) {
        return new WorkStep(
                name,
                NIGHT,
                1.5,
                Map.of(),
                moved == null ? List.of() : List.of(moved),
                kept == null ? List.of() : List.of(new KeptCount("loan", kept, "d")),
                compared,
                List.of(),
                0,
                0,
                List.of(),
                List.of(),
                List.of(),
                Map.of());
    }

    private static RecordedComparison proof(long source, long target, String between) {
        return new RecordedComparison(
                between,
                Depth.COUNTS,
                source == target,
                List.of(compared(source, target)),
                List.of(),
                "",
                null,
                null,
                null);
    }

    private static WorkRecord run(String onto, WorkStep... steps) {
        return new WorkRecord(
                WorkRecord.VERSION,
                WorkKind.RUN,
                "a night",
                WorkStatus.FINISHED,
                Software.here(),
                NIGHT,
                NIGHT.plusSeconds(9),
                new RecordedEnd("old.db", "H2"),
                new RecordedEnd("new.db", "SQLite"),
                Map.of("onto", onto),
                List.of(steps),
                List.of(),
                null,
                null);
    }

    private static List<String> wrong(WorkRecord work) {
        return work.tables().stream().flatMap(t -> t.wrong().stream()).toList();
    }

    @Test
    void countsThatAddUpDo() {
        WorkRecord work = run(
                "replace",
                step("export", moved(110, 100, 7, 3), 100L, null),
                step("load", moved(100, 100, 0, 0), null, null),
                step("proof", null, null, proof(100, 100, "source and target")));
        assertThat(wrong(work)).isEmpty();
        assertThat(work.tables().get(0).rejected()).isEqualTo(7);
    }

    @Test
    void anyHopThatLosesARecordIsNamed() {
        WorkStep export = step("export", moved(100, 100, 0, 0), 100L, null);
        WorkStep load = step("load", moved(100, 100, 0, 0), null, null);
        WorkStep proof = step("proof", null, null, proof(100, 100, "source and target"));
        assertThat(wrong(run("replace", step("export", moved(100, 99, 0, 0), 99L, null), load, proof)))
                .contains("100 read by the export, and 99 written, rejected or left out by it")
                .contains("99 in the set, and 100 read by the load");
        assertThat(wrong(run("replace", step("export", moved(100, 100, 0, 0), 99L, null))))
                .containsExactly("100 written into files, and 99 in the set");
        assertThat(wrong(run("replace", export, step("load", moved(100, 99, 0, 0), null, null), proof)))
                .hasSize(2);
        assertThat(wrong(run("replace", export, load, step("proof", null, null, proof(101, 100, "source and target")))))
                .containsExactly("101 at the source, and 100 written into files");
        assertThat(wrong(run("replace", export, load, step("proof", null, null, proof(100, 101, "set and target")))))
                .containsExactly("100 loaded, and 101 in the target");
        assertThat(run("replace", export, load, step("proof", null, null, proof(100, 101, "set and target")))
                        .conclusion()
                        .mark())
                .isEqualTo(Conclusion.Mark.WRONG);
    }

    @Test
    void whatWasThereBeforeCounts() {
        WorkStep backup = step("backup", null, 20L, null);
        WorkStep export = step("export", moved(100, 100, 0, 0), 100L, null);
        WorkStep load = step("load", moved(100, 100, 0, 0), null, null);
        assertThat(wrong(run(
                        "append",
                        backup,
                        export,
                        load,
                        step("proof", null, null, proof(120, 120, "source and target")))))
                .isEmpty();
        assertThat(wrong(run(
                        "append",
                        backup,
                        export,
                        load,
                        step("proof", null, null, proof(121, 121, "source and target")))))
                .hasSize(2);
        MovedCounts merged = new MovedCounts("loan", 100, 100, 0, 0, 10, "d", 0.5, 90L, 4L);
        assertThat(wrong(run(
                        "merge",
                        backup,
                        export,
                        step("load", merged, null, null),
                        step("proof", null, null, proof(110, 110, "set and target, merged once more")))))
                .isEmpty();
        assertThat(wrong(run(
                        "merge",
                        backup,
                        export,
                        step("load", merged, null, null),
                        step("proof", null, null, proof(111, 111, "set and target, merged once more")))))
                .containsExactly("110 there before or added, and 111 in the target");
    }

    @Provide
    Arbitrary<WorkRecord> records() {
        Arbitrary<String> text = Arbitraries.oneOf(
                Arbitraries.strings().all().ofMaxLength(30),
                Arbitraries.of("</style><script>alert(1)</script>", "\u202Egnp", "a\u0000b\nc", "'\"&", "\uD800"));
        Arbitrary<String> value = text.injectNull(0.2);
        Arbitrary<RecordedFinding> findings = Combinators.combine(
                        text, Arbitraries.of(FindingCode.Severity.class), text, text, text)
                .as(RecordedFinding::new);
        Arbitrary<DifferentValue> values =
                Combinators.combine(text, value, value).as(DifferentValue::new);
        Arbitrary<RecordedDifference> differences = Combinators.combine(
                        text,
                        Arbitraries.of("missing", "extra", "different"),
                        values.list().ofMaxSize(3),
                        values.list().ofMaxSize(3))
                .as((t, k, key, d) -> new RecordedDifference(t, k, key, d, 0));
        return Combinators.combine(
                        text,
                        findings.list().ofMaxSize(4),
                        differences.list().ofMaxSize(4),
                        text.list().ofMaxSize(3),
                        Arbitraries.longs())
                .as((name, found, differing, texts, number) -> {
                    WorkStep bare = step(
                            "proof",
                            null,
                            number,
                            new RecordedComparison(
                                    name,
                                    Depth.ROWS,
                                    false,
                                    List.of(compared(1L, number)),
                                    differing,
                                    name,
                                    null,
                                    null,
                                    null));
                    WorkStep full = new WorkStep(
                            name,
                            NIGHT,
                            1.25,
                            Map.of(name, name),
                            bare.moved(),
                            bare.kept(),
                            bare.compared(),
                            List.of(new SliceTime(name, 0.5, 0.25)),
                            3,
                            1,
                            List.of(new PaceSample(0, 0.25, number, number)),
                            found,
                            List.of(new RecordedThing(name, name, name)),
                            Map.of());
                    return new WorkRecord(
                            WorkRecord.VERSION,
                            WorkKind.CATCH_UP,
                            name,
                            WorkStatus.UNDONE,
                            Software.here(),
                            NIGHT,
                            null,
                            new RecordedEnd(name, name),
                            new RecordedEnd(name, name),
                            Map.of(name, name),
                            List.of(full),
                            texts.stream().map(t -> new RecordedEvent(NIGHT, t)).toList(),
                            new RecordedRejects(
                                    name,
                                    2,
                                    List.of(new RejectGroup(
                                            name, name, name, 2, List.of(new RejectSample(name, number, null, name)))),
                                    0),
                            new RecordedSet(name, List.of(new SetFile(name, number, name)), 0));
                });
    }

    private static JsonSchema schema() throws IOException {
        try (InputStream in = WorkRecord.class.getResourceAsStream("record.schema.json")) {
            return JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
                    .getSchema(new ObjectMapper().readTree(in));
        }
    }

    @Property(tries = 200)
    void aRecordIsWhatItsSchemaSaysAndComesBackAsItWas(@ForAll("records") WorkRecord work) throws IOException {
        Path file = Files.createTempFile("record", ".json");
        try {
            // halves of surrogate pairs are no text that a file could hold
            if (!StandardCharsets.UTF_8.newEncoder().canEncode(work.json())) {
                return;
            }
            work.write(file);
            assertThat(schema().validate(new ObjectMapper().readTree(file.toFile())))
                    .isEmpty();
            assertThat(WorkRecord.read(file)).isEqualTo(work);
        } finally {
            Files.delete(file);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "null",
                "[]",
                "{",
                "{\"record\":2}",
                "{\"record\":1,\"kind\":\"party\"}",
                "{\"record\":1,\"began\":\"yesterday\"}",
                "{\"record\":1,\"steps\":[null]}",
                "{\"record\":1,\"colour\":\"red\"}",
                "{\"record\":1} {\"record\":1}",
                "{\"record\":1,\"steps\":[{\"moved\":[{\"read\":\"many\"}]}]}",
            })
    void whatIsNoRecordIsRefusedWithItsFile(String text) throws IOException {
        Path file = folder.resolve("odd.json");
        Files.writeString(file, text);
        assertThatThrownBy(() -> WorkRecord.read(file))
                .isInstanceOf(MalformedFileException.class)
                .hasMessageContaining("odd.json");
    }

    @Test
    void aRecordIsBounded() throws IOException {
        Path file = folder.resolve("deep.json");
        Files.writeString(file, "{\"record\":1,\"steps\":" + "[".repeat(100_000));
        assertThatThrownBy(() -> WorkRecord.read(file)).isInstanceOf(FerryException.class);
        RecordedEvent event = new RecordedEvent(NIGHT, "x".repeat(100_000));
        assertThat(event.text()).hasSizeLessThan(2_100);
    }

    @Test
    void aLongPieceOfWorkIsToldInLongerStretches() {
        long[] now = {0};
        Timeline time = new Timeline(ProgressListener.NONE, () -> now[0]);
        TableName table = TableName.of("loan");
        long sum = 0;
        for (int second = 0; second < 100_000; second++) {
            now[0] = second * 1_000_000_000L;
            time.moved(table, second % 7, 1);
            sum += second % 7;
        }
        assertThat(time.pace()).hasSizeLessThanOrEqualTo(Timeline.MOST_SAMPLES);
        assertThat(time.pace().stream().mapToLong(PaceSample::rows).sum()).isEqualTo(sum);
        List<Double> begins = new ArrayList<>();
        time.pace().forEach(p -> begins.add(p.from()));
        assertThat(begins).isSorted();
    }
}
