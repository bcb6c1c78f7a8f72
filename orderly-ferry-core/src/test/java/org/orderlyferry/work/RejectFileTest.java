package org.orderlyferry.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.Rejects;

/** Rejected records are kept with their reasons; those of an attempt count when it does. */
@Tag("everywhere")
class RejectFileTest {

    @TempDir
    private Path folder;

    private static BadValueException bad(int line, String value) {
        return new BadValueException(new Origin("label", "label.csv", line, true), "size", value, "is no number");
    }

    private List<String> lines() throws Exception {
        return Files.readAllLines(folder.resolve("r.csv"));
    }

    @Test
    void eachHasItsPlaceItsValueAndItsReason() throws Exception {
        try (RejectFile file = new RejectFile(folder.resolve("r.csv"))) {
            file.reject(bad(7, "a \"green\" one"));
            file.reject(new MalformedFileException(new Origin("", "label.csv", 9, true), "the row has 2 values"));
            file.reject(bad(11, null));
            // a line says which record it is; where there are none, its key does
            RecordBatch batch = new RecordBatch();
            batch.start(
                    TableDefinition.named("label")
                            .column("shelf", LogicalType.CLOB)
                            .column("no", LogicalType.INTEGER)
                            .column("size", LogicalType.INTEGER)
                            .primaryKey("no", "shelf")
                            .build(),
                    "herbarium");
            batch.add("B \"2\"");
            batch.add("7");
            batch.add("x");
            batch.endRow(3);
            file.reject(new BadValueException(batch.origin(0), "size", "x", "is no number"));
            assertThat(file.count()).isEqualTo(4);
        }
        assertThat(lines())
                .containsExactly(
                        "table,file,line,column,value,reason,key",
                        "label,label.csv,7,size,\"a \"\"green\"\" one\",is no number,",
                        "\"\",label.csv,9,,,the row has 2 values,",
                        "label,label.csv,11,size,,is no number,",
                        "label,herbarium,3,size,x,is no number,\"no = 7, shelf = 'B \"\"2\"\"'\"");
    }

    @Test
    void whatIsNotAboutARecordIsNoReject() {
        try (RejectFile file = new RejectFile(folder.resolve("r.csv"))) {
            assertThatThrownBy(() -> file.reject(new PlaceException("herb", "is burning", null)))
                    .isInstanceOf(PlaceException.class);
            assertThat(file.count()).isZero();
        }
    }

    @Test
    void anAttemptThatIsDroppedWasNeverHeard() throws Exception {
        try (RejectFile file = new RejectFile(folder.resolve("r.csv"))) {
            Rejects.Attempt first = file.attempt();
            first.reject(bad(1, "x"));
            first.reject(bad(2, "x"));
            assertThat(first.count()).isEqualTo(2);
            first.drop();
            Rejects.Attempt second = file.attempt();
            second.reject(bad(1, "x"));
            second.keep();
            assertThat(file.count()).isEqualTo(1);
        }
        assertThat(lines()).hasSize(2);
        try (Stream<Path> files = Files.list(folder)) {
            assertThat(files).hasSize(1);
        }
    }

    @Test
    void severalAttemptsAtOnceDontMix() throws Exception {
        try (RejectFile file = new RejectFile(folder.resolve("r.csv"))) {
            Rejects.Attempt one = file.attempt();
            Rejects.Attempt other = file.attempt();
            for (int i = 1; i <= 500; i++) {
                one.reject(bad(i, "one"));
                other.reject(bad(i, "other"));
            }
            one.drop();
            other.keep();
            assertThat(file.count()).isEqualTo(500);
        }
        assertThat(lines()).hasSize(501).noneMatch(l -> l.contains(",one,"));
    }

    @Test
    void anAttemptWithoutRejectsLeavesNoFile() throws Exception {
        try (RejectFile file = new RejectFile(folder.resolve("r.csv"))) {
            file.attempt().keep();
            file.attempt().drop();
        }
        assertThat(lines()).hasSize(1);
    }

    @Test
    void halvesOfCharactersAreWrittenAsEscapes() throws Exception {
        try (RejectFile file = new RejectFile(folder.resolve("r.csv"))) {
            file.reject(bad(1, "a\uD83C!"));
        }
        assertThat(lines().get(1)).contains("a\\ud83c!");
    }

    @Test
    void aFileThatCantBeMadeIsToldAtOnce() {
        assertThatThrownBy(() -> new RejectFile(folder.resolve("no/r.csv")))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("can't be made");
    }
}
