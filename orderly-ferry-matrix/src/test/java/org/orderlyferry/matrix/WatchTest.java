package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.crossing.Arrival;
import org.orderlyferry.crossing.Crossing;
import org.orderlyferry.crossing.Watch;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.servers.TestSystem;

/** Loans that a partner sends week by week, as files in a folder. */
class WatchTest {

    private static final String HEAD = "loan,borrower,due\n";

    @TempDir
    private Path folder;

    private Path inbox;
    private Path file;

    @BeforeEach
    void makeInbox() throws Exception {
        inbox = Files.createDirectories(folder.resolve("inbox"));
        file = folder.resolve("weekly.yaml");
    }

    private void arrive(String name, String content) throws Exception {
        Files.writeString(inbox.resolve(name), content);
    }

    private void crossing(String url, String onto, String more) throws Exception {
        Path sample = folder.resolve("sample.csv");
        Files.writeString(sample, HEAD + "1,Quay Museum,2026-12-01\n");
        assertThat(Ferry.run("draft", sample, url, "--file", file).code()).isZero();
        Files.writeString(
                file,
                Files.readString(file).replace("onto: refuse", "onto: " + onto).replace("to: sample", "to: loan_notice")
                        + "\narrivals:\n  folder: inbox\n  pattern: loans-*.csv\n  whole-after: 0\n  taken: taken\n"
                        + "  refused: refused\n" + more);
    }

    private static long rows(String url) {
        try (Place place = Places.open(url)) {
            return place.count(TableName.of("loan_notice"));
        }
    }

    private static Stream<String> names(Path of) throws Exception {
        try (Stream<Path> all = Files.list(of)) {
            return all.map(p -> p.getFileName().toString()).sorted().toList().stream();
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void eachFileIsTakenOnceAndABadOneIsRefusedWhole(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        crossing(url, "append", "  fewest-rows: 1\n  most-rows: 3\n");
        arrive("loans-01.csv", HEAD + "1,Quay Museum,2026-12-01\n2,Moor School,2027-01-15\n");
        arrive("loans-02.csv", HEAD + "3,Fen College,2026-12-24\n");
        arrive("loans-03.csv", HEAD + "3,Fen College,2026-12-24\n");
        arrive("loans-04.csv", HEAD + "4,Fen College,2026-12-24\n5,Fen College,tomorrow\n");
        arrive("loans-05.csv", "loan,who\n6,Fen College\n");
        arrive("loans-06.csv", HEAD + "7,a,2026-12-24\n8,b,2026-12-24\n9,c,2026-12-24\n10,d,2026-12-24\n");
        arrive("loans-07.csv", HEAD + "1,Quay Museum again,2026-12-01\n");
        arrive("loans-08.csv", HEAD + "11,Dene Library,2027-02-01\n");
        arrive("loans-09.csv", HEAD + "12,Dene Library,2027-02-01,and more\n");
        arrive("notes.csv", "not,one\n");

        Ferry once = Ferry.run("watch", file, "--once");
        assertThat(once.code()).as(once.out() + once.err()).isEqualTo(1);
        assertThat(once.out())
                .contains("loans-03.csv: its content was taken at")
                .contains("'tomorrow' isn't a DATE")
                .contains("has no column borrower")
                .contains("the record has 4 values, but there are 3 columns")
                .contains("has 4 records, and between 1 and 3 are expected");
        assertThat(rows(url)).isEqualTo(4);
        assertThat(names(folder.resolve("taken")))
                .containsExactly("loans-01.csv", "loans-02.csv", "loans-03.csv", "loans-08.csv");
        assertThat(names(folder.resolve("refused")))
                .contains("loans-04.csv", "loans-04.csv.reasons.txt", "loans-07.csv", "loans-07.csv.reasons.txt");
        assertThat(names(inbox)).containsExactly("notes.csv");
        Ferry list = Ferry.run("watch", file, "--list");
        assertThat(list.out()).containsPattern("loans-02.csv +1  taken").containsPattern("loans-06.csv +–  refused");
        assertThat(Ferry.run("watch", file, "--once").out()).contains("No file.");
        assertThat(Ferry.run("undo", file).err())
                .as("arrivals are no runs of the crossing")
                .contains("there is no run");
    }

    @Test
    void aFileIsWholeWhenItsMarkerIsThere() throws Exception {
        String url = TestSystem.H2.fresh(folder);
        crossing(url, "append", "  marker: .done\n");
        arrive("loans-01.csv", HEAD + "1,Quay Museum,2026-12-01\n");
        assertThat(Ferry.run("watch", file, "--once").out()).contains("not whole yet");
        arrive("loans-01.csv.done", "");
        assertThat(Ferry.run("watch", file, "--once").out()).contains("taken");
        assertThat(names(inbox)).isEmpty();
        assertThat(rows(url)).isEqualTo(1);
    }

    @Test
    void anArrivalIsUndoneByItsRunsFolder() throws Exception {
        String url = TestSystem.H2.fresh(folder);
        crossing(url, "append", "");
        arrive("loans-01.csv", HEAD + "1,Quay Museum,2026-12-01\n");
        assertThat(Ferry.run("watch", file, "--once").code()).isZero();
        arrive("loans-02.csv", HEAD + "2,Moor School,2027-01-15\n");
        assertThat(Ferry.run("watch", file, "--once").code()).isZero();
        assertThat(rows(url)).isEqualTo(2);
        Path last;
        try (Stream<Path> all = Files.walk(folder.resolve("runs"))) {
            last = all.filter(p -> p.endsWith("backup"))
                    .findFirst()
                    .orElseThrow()
                    .getParent();
        }
        Ferry undo = Ferry.run("undo", last);
        assertThat(undo.code()).as(undo.out() + undo.err()).isZero();
        assertThat(rows(url)).isEqualTo(1);
        assertThat(Ferry.run("undo", folder).err()).contains("crossing.yaml");
    }

    @Test
    void aStrangersEscapeCodesReachNoTerminal() throws Exception {
        crossing(TestSystem.H2.fresh(folder), "append", "");
        arrive("loans-\u001b[2J.csv", "loan,\u001b[31mwho\n6,x\n");
        Ferry once = Ferry.run("watch", file, "--once");
        assertThat(once.code()).isEqualTo(1);
        assertThat(once.out() + once.err()).doesNotContain("\u001b");
        assertThat(Files.readString(folder.resolve("refused").resolve("loans-\u001b[2J.csv.reasons.txt")))
                .doesNotContain("\u001b")
                .contains("was refused");
    }

    @Test
    void aFileThatStillGrowsWaits() throws Exception {
        String url = TestSystem.H2.fresh(folder);
        crossing(url, "append", "");
        Files.writeString(file, Files.readString(file).replace("whole-after: 0", "whole-after: 3600"));
        arrive("loans-01.csv", HEAD + "1,Quay Museum,2026-12-01\n");
        assertThat(Ferry.run("watch", file, "--once").out()).contains("not whole yet");
        assertThat(names(inbox)).containsExactly("loans-01.csv");
    }

    @Test
    void whatWasRefusedIsTakenWhenTheCrossingAllowsIt() throws Exception {
        String url = TestSystem.H2.fresh(folder);
        crossing(url, "merge", "  most-rows: 1\n");
        String two = HEAD + "1,Quay Museum,2026-12-01\n2,Moor School,2027-01-15\n";
        arrive("loans-01.csv", two);
        assertThat(Ferry.run("watch", file, "--once").code()).isEqualTo(1);
        Files.writeString(file, Files.readString(file).replace("most-rows: 1", "most-rows: 2"));
        arrive("loans-01.csv", two);
        Ferry again = Ferry.run("watch", file, "--once");
        assertThat(again.code()).as(again.out()).isZero();
        arrive("loans-02.csv", HEAD + "2,Moor School,2027-03-15\n");
        assertThat(Ferry.run("watch", file, "--once").code()).isZero();
        assertThat(rows(url)).isEqualTo(2);
    }

    @Test
    void aTargetThatIsAwayRefusesNoFile() throws Exception {
        crossing(TestSystem.H2.fresh(folder), "append", "");
        Files.writeString(
                file,
                Files.readString(file)
                        .replaceAll("(?m)^to: .*$", "to: \"jdbc:postgresql://127.0.0.1:1/nowhere?user=nobody\""));
        arrive("loans-01.csv", HEAD + "1,Quay Museum,2026-12-01\n");
        assertThat(Ferry.run("watch", file, "--once").code()).isEqualTo(3);
        assertThat(names(inbox)).containsExactly("loans-01.csv");
    }

    @Test
    void aCrossingThatIsNoneOfFilesSaysSo() throws Exception {
        crossing(TestSystem.H2.fresh(folder), "refuse", "");
        assertThat(Ferry.run("watch", file, "--once").err()).contains("says onto: append, replace or merge");
        Files.writeString(file, Files.readString(file).replaceAll("(?s)\narrivals:.*", ""));
        assertThat(Ferry.run("watch", file, "--once").err()).contains("says nothing of arrivals");
    }

    /** It would be read, told of and noted at each look otherwise, for as long as it stays. */
    @Test
    void whatIsSettledAndStaysWhereItIsIsLookedAtOnce() throws Exception {
        crossing(folder.resolve("loans.sqlite").toString(), "append", "");
        Files.writeString(
                file, Files.readString(file).replace("  taken: taken\n", "").replace("  refused: refused\n", ""));
        arrive("loans-1.csv", HEAD + "1,Quay Museum,2026-12-01\n");
        arrive("loans-2.csv", HEAD + "2,Quay Museum,soon\n");
        Watch watch = Watch.of(Crossing.read(file));
        assertThat(watch.once()).extracting(Arrival::state).containsExactly(Arrival.State.TAKEN, Arrival.State.REFUSED);
        assertThat(watch.once()).isEmpty();
        arrive("loans-2.csv", HEAD + "2,Quay Museum,2026-12-08\n");
        assertThat(watch.once()).extracting(Arrival::state).containsExactly(Arrival.State.TAKEN);
        assertThat(watch.once()).isEmpty();
    }

    @Test
    void aLinkIsRefusedWhereverItLeads() throws Exception {
        crossing(folder.resolve("loans.sqlite").toString(), "append", "");
        Path secret = folder.resolve("secret.txt");
        Files.writeString(secret, "not,for,you\n");
        Files.createSymbolicLink(inbox.resolve("loans-1.csv"), secret);
        Files.createSymbolicLink(inbox.resolve("loans-2.csv"), folder.resolve("nowhere"));
        Ferry seen = Ferry.run("watch", file, "--once");
        assertThat(seen.code()).isEqualTo(1);
        assertThat(seen.out()).contains("loans-1.csv: it is a link").contains("loans-2.csv: it is a link");
        assertThat(seen.out() + seen.err()).doesNotContain("for,you");
        assertThat(secret).exists();
    }
}
