package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.function.Function;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.LocalMaria;
import org.orderlyferry.testkit.servers.LocalPostgres;

/** Servers that lose their power while a crossing runs into them, or out of them: when they are back, it goes on. */
class DyingServersTest extends CrossingCase {

    /** How many deaths of each server on each side; {@code -Dferry.kills=20} makes a campaign, of MariaDB too. */
    private static final int DEATHS = Integer.getInteger("ferry.kills", 1);

    private static final List<String> MODES = List.of("replace", "merge", "refuse");

    private final Random random = new Random(Long.getLong("ferry.seed", 31L));

    /** A server that can die. */
    private interface Mortal {
        String url(String database);

        void dieAndComeBack();
    }

    @Test
    void postgresql() throws Exception {
        Path data = folder.resolve("postgresql-data");
        LocalPostgres[] server = {LocalPostgres.startIn(data, 0)};
        int port = server[0].port();
        try {
            eachSide("postgres", new Mortal() {
                @Override
                public String url(String database) {
                    return server[0].url(database);
                }

                @Override
                public void dieAndComeBack() {
                    server[0].kill(data);
                    server[0] = LocalPostgres.startIn(data, port);
                }
            });
        } finally {
            server[0].close();
        }
    }

    /** Another server of it takes long to start: only in a campaign. */
    @Test
    @EnabledIfSystemProperty(named = "ferry.kills", matches = ".+")
    void mariadb() throws Exception {
        try (LocalMaria server = LocalMaria.start("--local-infile=1")) {
            eachSide("test", new Mortal() {
                @Override
                public String url(String database) {
                    return server.url(database);
                }

                @Override
                public void dieAndComeBack() {
                    server.killAndRestart();
                }
            });
        }
    }

    private void eachSide(String first, Mortal server) throws Exception {
        Function<String, String> fresh = name -> {
            try {
                Databases.run(server.url(first), "CREATE DATABASE " + name);
            } catch (SQLException e) {
                throw new IllegalStateException(e);
            }
            return server.url(name);
        };
        String source = fresh.apply(first + "_source");
        must(0, "load", old, source);
        for (int i = 0; i < DEATHS; i++) {
            target(server, fresh.apply(first + "_" + i), MODES.get(i % MODES.size()), first + i);
            source(server, source, folder.resolve(first + i + ".sqlite").toString(), first + i);
        }
    }

    private void target(Mortal server, String url, String mode, String name) throws Exception {
        switch (mode) {
            case "replace" -> must(0, "load", small, url);
            case "merge" -> must(0, "load", old, url, "taxon", "--where", "id <= 100");
            default -> {
                // empty
            }
        }
        Path file = draft("dying-target-" + name, old, url, slowly("onto: refuse", "onto: " + mode));
        dying(server, file);
        must(0, "reconcile", old, url);
        assertThat(must(0, "look", url).out()).doesNotContain("unfinished load", "orderly_ferry_");
    }

    private void source(Mortal server, String source, String url, String name) throws Exception {
        Path file = draft("dying-source-" + name, source, url, slowly());
        dying(server, file);
        must(0, "reconcile", source, url);
    }

    /** Changes of a draft that make a run long enough for a server to die in. */
    private static String[] slowly(String... changes) {
        List<String> all = new ArrayList<>(List.of(changes));
        all.addAll(List.of("slice-rows: 1000000", "slice-rows: 500", "rows-per-second: 0", "rows-per-second: 3000"));
        return all.toArray(String[]::new);
    }

    /** Runs a crossing, lets the server die when the run has come so far, and runs it again. */
    private void dying(Mortal server, Path file) throws Exception {
        int lines = 1 + random.nextInt(6);
        CompletableFuture<Ferry> running = CompletableFuture.supplyAsync(() -> Ferry.run("run", file));
        while (!running.isDone() && ledgerLines(file) < lines) {
            Thread.sleep(2);
        }
        Thread.sleep(random.nextInt(600));
        server.dieAndComeBack();
        Ferry first = running.get(3, TimeUnit.MINUTES);
        String when = file + ", died at line " + lines + ": " + first.out() + first.err();
        if (first.code() == 0) {
            return;
        }
        assertThat(first.code()).as(when).isEqualTo(3);
        assertThat(first.err()).as(when).contains("ferry: ").doesNotContain("Exception");
        Ferry again = Ferry.run("run", file);
        assertThat(again.code()).as(when + again.out() + again.err()).isZero();
        assertThat(again.out()).as(when).contains("proved");
    }

    private static long ledgerLines(Path file) throws Exception {
        Path runs = file.resolveSibling("runs");
        if (!Files.exists(runs)) {
            return 0;
        }
        try (Stream<Path> all = Files.list(runs)) {
            List<Path> ledgers = all.map(p -> p.resolve("ledger.jsonl"))
                    .filter(Files::exists)
                    .toList();
            return ledgers.isEmpty() ? 0 : Files.readAllLines(ledgers.get(0)).size();
        }
    }
}
