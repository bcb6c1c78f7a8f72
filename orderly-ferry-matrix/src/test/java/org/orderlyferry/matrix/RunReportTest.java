package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.crossing.RunRecords;
import org.orderlyferry.report.Conclusion;
import org.orderlyferry.report.RecordedEvent;
import org.orderlyferry.report.TableCounts;
import org.orderlyferry.report.WorkKind;
import org.orderlyferry.report.WorkRecord;
import org.orderlyferry.report.WorkStatus;
import org.orderlyferry.report.WorkStep;
import org.orderlyferry.testkit.servers.Databases;

/** What a run's record says of runs that went otherwise than straight through. */
class RunReportTest extends CrossingCase {

    private static List<Path> runs(Path crossing) throws Exception {
        try (Stream<Path> all = Files.list(crossing.resolveSibling("runs"))) {
            return all.filter(RunRecords::isRun).sorted().toList();
        }
    }

    private static WorkRecord last(Path crossing) throws Exception {
        List<Path> runs = runs(crossing);
        return RunRecords.of(runs.get(runs.size() - 1));
    }

    private static Path target(String name) {
        return folder.resolve(name + ".sqlite");
    }

    private static TableCounts counts(WorkRecord work, String table) {
        return work.tables().stream()
                .filter(t -> t.table().equals(table))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void aRunThatIsRefusedSaysWhy() throws Exception {
        Path file = draft("refused", small, target("refused").toString());
        must(0, "load", small, target("refused"));
        must(2, "run", file);
        WorkRecord work = last(file);
        assertThat(work.status()).isEqualTo(WorkStatus.REFUSED);
        assertThat(work.conclusion().text())
                .contains("Refused before anything was changed", "has these tables already");
        assertThat(must(1, "report", file).out()).contains("has these tables already");
    }

    @Test
    void aRunThatWasKilledIsNotFinishedAndThenTellsOfIt() throws Exception {
        Path file = draft("killed", old, target("killed").toString());
        halted(file, 40);
        WorkRecord cut = last(file);
        assertThat(cut.status()).isEqualTo(WorkStatus.UNFINISHED);
        assertThat(cut.ended()).isNull();
        assertThat(cut.conclusion().mark()).isEqualTo(Conclusion.Mark.WRONG);
        assertThat(must(1, "report", file).out()).contains("Not finished");
        must(0, "run", file);
        WorkRecord work = last(file);
        assertThat(work.status()).isEqualTo(WorkStatus.FINISHED);
        assertThat(work.conclusion().mark()).isEqualTo(Conclusion.Mark.PROVED);
        assertThat(work.events().stream().map(RecordedEvent::text))
                .anyMatch(t -> t.startsWith("went on, by ") && t.contains("stopped or killed"));
        assertThat(work.tables()).isNotEmpty().allMatch(TableCounts::addsUp);
    }

    @Test
    void whatWasThereBeforeIsAHopOfItsOwn() throws Exception {
        Path first = draft("first", small, target("more").toString());
        must(0, "run", first);
        Path more = Files.createDirectories(folder.resolve("more")).resolve("crossing.yaml");
        must(0, "draft", small, target("more"), "loan", "--file", more);
        edit(more, "\nonto: refuse", "\nonto: merge");
        Databases.run("jdbc:sqlite:" + target("more"), "DELETE FROM loan_item", "DELETE FROM loan WHERE id = 2");
        must(0, "run", more);
        TableCounts loan = counts(last(more), "loan");
        assertThat(loan.before()).isEqualTo(loan.target() - 1);
        assertThat(loan.inserted()).isEqualTo(1);
        assertThat(loan.addsUp()).isTrue();
        assertThat(last(more).conclusion().mark()).isEqualTo(Conclusion.Mark.PROVED);
    }

    @Test
    void catchUpsAndUndoingAreTold() throws Exception {
        Path source = folder.resolve("grown.sqlite");
        must(0, "load", small, source);
        Path file = draft("grown", source, target("caught").toString());
        must(0, "run", file);
        Databases.run("jdbc:sqlite:" + source, "UPDATE collector SET name = 'A. Brilemere' WHERE id < 4");
        must(0, "run", file, "--catch-up");
        List<Path> runs = runs(file);
        WorkRecord whole = RunRecords.of(runs.get(0));
        assertThat(whole.events().stream().map(RecordedEvent::text))
                .anyMatch(t -> t.startsWith("a catch-up, ") && t.endsWith("was shown to be up to date"));
        WorkRecord caught = RunRecords.of(runs.get(1));
        assertThat(caught.kind()).isEqualTo(WorkKind.CATCH_UP);
        assertThat(counts(caught, "collector").updated()).isEqualTo(3);
        // it has no key, and was only shown to be as it was
        assertThat(counts(caught, "label_draft").compared()).isNotNull();
        assertThat(counts(caught, "label_draft").target())
                .isEqualTo(counts(whole, "label_draft").written());
        assertThat(caught.proof()).isEmpty();
        assertThat(caught.conclusion().mark()).isEqualTo(Conclusion.Mark.PROVED);
        assertThat(must(0, "report", file, "--format", "markdown").out()).contains("as they were");
        must(0, "undo", file, "--accept-changes");
        assertThat(RunRecords.of(runs.get(0)).status()).isEqualTo(WorkStatus.UNDONE);
        assertThat(RunRecords.of(runs.get(1)).events().stream().map(RecordedEvent::text))
                .anyMatch(t -> t.startsWith("undone together with the run of "));
    }

    @Test
    void aSetThatSomebodyHasBrokenIsToldAndTheRestIsShown() throws Exception {
        Path file = draft("broken", small, target("broken").toString());
        must(0, "run", file);
        Path run = runs(file).get(0);
        Files.delete(run.resolve("set").resolve("manifest-sha256.txt"));
        WorkRecord work = RunRecords.of(run);
        assertThat(work.set()).isNull();
        assertThat(work.events().stream().map(RecordedEvent::text)).anyMatch(t -> t.contains("isn't whole any more"));
        assertThat(work.tables()).isNotEmpty();
    }

    @Test
    void aStepsRecordThatIsLostLeavesWhatTheLedgerSays() throws Exception {
        Path file = draft("lost", small, target("lost").toString());
        must(0, "run", file);
        Path run = runs(file).get(0);
        Files.delete(run.resolve("record").resolve("load.json"));
        WorkRecord work = RunRecords.of(run);
        WorkStep load = work.steps().stream()
                .filter(s -> s.step().equals("load"))
                .findFirst()
                .orElseThrow();
        assertThat(load.moved()).isEmpty();
        assertThat(load.facts()).containsKey("rows");
        assertThat(counts(work, "taxon").loaded())
                .as("nobody knows it any more")
                .isNull();
        assertThat(work.tables()).allMatch(TableCounts::addsUp);
    }

    @Test
    void aLedgerOrARecordThatSomebodyHasChangedIsRefused() throws Exception {
        Path file = draft("changed", small, target("changed").toString());
        must(0, "run", file);
        Path run = runs(file).get(0);
        Path step = run.resolve("record").resolve("export.json");
        Files.writeString(step, Files.readString(step).replaceFirst("\"moved\"", "\"moves\""));
        assertThat(must(3, "report", run).err()).contains("export.json", "moves");
        Path ledger = run.resolve("ledger.jsonl");
        Files.writeString(ledger, Files.readString(ledger).replaceFirst("\"rows\":\"\\d+\"", "\"rows\":\"1\""));
        Ferry ferry = must(3, "report", run);
        assertThat(ferry.err()).contains("ledger.jsonl").contains("was changed after it was written");
        assertThat(run.resolve("report.html")).doesNotExist();
    }
}
