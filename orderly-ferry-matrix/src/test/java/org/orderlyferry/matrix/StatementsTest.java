package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.testkit.servers.TestSystem;

/** Statements of a person's own, which fail, are corrected, and of which nobody else knows what became of them. */
class StatementsTest extends CrossingCase {

    private static final String NONE = "after: \\[\\]";

    private Path crossing(String url, String after) throws Exception {
        String source = TestSystem.SQLITE.fresh(folder);
        run(source, "create table bed (id int primary key, code int)", "insert into bed values (1, 11), (2, 12)");
        Path file = Files.createTempDirectory(folder, "statements-").resolve("crossing.yaml");
        must(0, "draft", source, url, "--file", file);
        edit(file, NONE, after);
        return file;
    }

    /** Hours of loading aren't thrown away for a slip of the pen. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aStatementThatFailedIsCorrectedAndTheRunGoesOn(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        Path file = crossing(
                url,
                "after:\n  - { run: create table memo (n int), undo: drop table memo }\n"
                        + "  - { run: insert into memmo values (7), undo: \"\" }\n#");
        assertThat(must(3, "run", file).err()).contains("statement 2 after the load failed", "memmo");
        assertThat(must(2, "run", file).err())
                .contains(
                        "statement 2 after the load failed when it was run", "Write it otherwise", "option statement");

        assertThat(must(1, "check", file).out()).contains("It can't begin (1)", "statement 2 after the load failed");

        edit(file, "create table memo \\(n int\\)", "create table memo (n bigint)");
        assertThat(must(2, "run", file).err()).contains("was edited since: after");
        assertThat(must(1, "check", file).out()).contains("the crossing says otherwise since: after");
        edit(file, "create table memo \\(n bigint\\)", "create table memo (n int)");
        edit(file, "into memmo", "into memo");
        assertThat(must(0, "check", file).out()).contains("would go on").containsPattern("has 2 rows\\R");
        Ferry gone = must(0, "run", file);
        assertThat(gone.out())
                .containsPattern("load .* done before")
                .containsPattern("statement 1: create table memo .* done before");
        run(url, "update memo set n = 8 where n = 7");

        // somebody has cleared up before
        run(url, "drop table memo");
        assertThat(must(3, "undo", file).err())
                .contains("what undoes statement 1 after the load failed", "option statement");
        must(3, "undo", file, "--statement", "again");
        must(0, "undo", file, "--statement", "done");
        assertThat(tables(url)).isEmpty();
    }

    @Test
    void whatWasUnderWayIsAskedForAndTold() throws Exception {
        String url = TestSystem.SQLITE.fresh(folder);
        Path file = crossing(url, "after:\n  - { run: create table memo (n int), undo: drop table memo }\n#");
        must(0, "run", file);
        // as if it had been killed before it heard of it
        Path ledger = lastRun(file).resolve("ledger.jsonl");
        List<String> lines = Files.readAllLines(ledger);
        int begun = 0;
        while (!lines.get(begun).contains("create table memo")) {
            begun++;
        }
        Files.write(ledger, lines.subList(0, begun + 1));
        // another text doesn't tell what became of the first one
        edit(file, "create table memo \\(n int\\)", "create table memo (n bigint)");
        assertThat(must(2, "run", file).err())
                .contains("only you can find out whether it was done: create table memo (n int)");
        assertThat(must(0, "undo", file).out())
                .contains("statement 1 after the load was under way when the run was cut short")
                .contains("it wasn't undone");
        assertThat(tables(url)).containsExactly("memo");
    }
}
