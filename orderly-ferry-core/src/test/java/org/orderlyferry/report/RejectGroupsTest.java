package org.orderlyferry.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
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
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.work.RejectFile;

/** Rejected records by their reasons, as a report has them: all are counted, and the first of each are shown. */
class RejectGroupsTest {

    @TempDir
    private Path folder;

    /** A reject as it was. */
    private record Told(String table, String column, String reason, long line, String value) {}

    @Provide
    Arbitrary<List<Told>> rejects() {
        Arbitrary<String> table = Arbitraries.of("loan", "taxon", "a,b", "\"q\"");
        Arbitrary<String> column = Arbitraries.of("sent", "due");
        Arbitrary<String> reason =
                Arbitraries.of("isn't a DATE", "is longer than 4 characters", "line\nbreak, \"quoted\"");
        Arbitrary<Long> line = Arbitraries.longs().between(1, 1_000_000);
        Arbitrary<String> value = Arbitraries.of("soon", "", "x\ty", "<b>", "ü山", "'; DROP TABLE loan; --");
        return Combinators.combine(table, column, reason, line, value)
                .as(Told::new)
                .list()
                .ofMaxSize(80);
    }

    @Property(tries = 100)
    void allAreCountedAndTheFirstOfEachAreKept(@ForAll("rejects") List<Told> rejects) throws IOException {
        Path file = Files.createTempFile("rejects", ".csv");
        try {
            try (RejectFile kept = new RejectFile(file)) {
                rejects.forEach(r -> kept.reject(new BadValueException(
                        new Origin(r.table(), "loans.csv", r.line(), true), r.column(), r.value(), r.reason())));
            }
            RecordedRejects groups = RejectGroups.of(file);
            if (rejects.isEmpty()) {
                assertThat(groups).isNull();
                return;
            }
            assertThat(groups.count()).isEqualTo(rejects.size());
            assertThat(groups.furtherGroups()).isZero();
            Map<List<String>, List<RejectSample>> expected = new LinkedHashMap<>();
            for (Told told : rejects) {
                expected.computeIfAbsent(List.of(told.table(), told.column(), told.reason()), k -> new ArrayList<>())
                        .add(new RejectSample("loans.csv", told.line(), told.value(), null));
            }
            assertThat(groups.groups()).hasSameSizeAs(expected.keySet());
            for (RejectGroup group : groups.groups()) {
                List<RejectSample> all = expected.get(List.of(group.table(), group.column(), group.reason()));
                assertThat(group.count()).isEqualTo(all.size());
                assertThat(group.first()).isEqualTo(all.subList(0, Math.min(RejectGroup.FIRST, all.size())));
            }
            assertThat(groups.groups().stream().map(RejectGroup::count))
                    .isSortedAccordingTo((a, b) -> Long.compare(b, a));
        } finally {
            Files.delete(file);
        }
    }

    @Test
    void whereEachHasAReasonOfItsOwnTheyAreCountedTogether() {
        Path file = folder.resolve("own.csv");
        int all = 12_345;
        try (RejectFile kept = new RejectFile(file)) {
            for (int i = 0; i < all; i++) {
                kept.reject(new BadValueException(
                        new Origin("loan", "loans.csv", i + 1, true),
                        "no",
                        "" + i,
                        "the key " + i + " is there twice"));
            }
        }
        RecordedRejects groups = RejectGroups.of(file);
        assertThat(groups.count()).isEqualTo(all);
        assertThat(groups.groups()).hasSize(RecordedRejects.MOST);
        assertThat(groups.furtherGroups()).isEqualTo(all - RecordedRejects.MOST);
    }

    @Test
    void aRecordThatCantBeReadAtAllHasNoColumnAndNoValue() {
        Path file = folder.resolve("whole.csv");
        try (RejectFile kept = new RejectFile(file)) {
            kept.reject(new MalformedFileException(new Origin("loan", "loans.csv", 7, true), "has 3 values, not 5"));
        }
        RejectGroup group = RejectGroups.of(file).groups().get(0);
        assertThat(group.column()).isEmpty();
        assertThat(group.first()).containsExactly(new RejectSample("loans.csv", 7, null, null));
    }

    @Test
    void aFileThatSomebodyHasCutIsTold() throws IOException {
        assertThat(RejectGroups.of(folder.resolve("nowhere.csv"))).isNull();
        Path file = folder.resolve("cut.csv");
        Files.writeString(file, "table,file,line,column,value,reason\r\nloan,loans.csv,7,\"se");
        assertThatThrownBy(() -> RejectGroups.of(file))
                .isInstanceOf(FerryException.class)
                .hasMessageContaining("cut.csv");
    }

    /** What a run of before rejected had no keys. */
    @Test
    void aFileWithoutKeysIsReadToo() throws Exception {
        Path file = folder.resolve("before.csv");
        Files.writeString(file, "table,file,line,column,value,reason\r\nloan,herbarium,7,days,x,is no number\r\n");
        assertThat(RejectGroups.of(file).groups().get(0).first())
                .containsExactly(new RejectSample("herbarium", 7, "x", null));
        Files.writeString(
                file, "table,file,line,column,value,reason,key\r\nloan,herbarium,7,days,x,is no number,no = 5\r\n");
        assertThat(RejectGroups.of(file).groups().get(0).first())
                .containsExactly(new RejectSample("herbarium", 7, "x", "no = 5"));
    }
}
