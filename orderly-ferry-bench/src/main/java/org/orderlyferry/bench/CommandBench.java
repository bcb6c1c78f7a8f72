package org.orderlyferry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.orderlyferry.testkit.servers.LocalPostgres;

/** Whole commands between two databases of one PostgreSQL server, measured into a table in Markdown. */
abstract class CommandBench {

    static final double PART = Double.parseDouble(System.getProperty("bench.part", "1"));

    private Path folder;
    private Commands commands;
    private String from;
    private String to;
    private final List<String> lines = new ArrayList<>();

    /** Measures all of it. */
    abstract void run() throws Exception;

    /** Starts the server, measures, and writes the table to a file. */
    final void into(Path file) throws Exception {
        folder = Files.createTempDirectory("ferry-bench");
        commands = new Commands(folder);
        try (LocalPostgres postgres = LocalPostgres.start("max_wal_size=4GB", "shared_buffers=256MB")) {
            Commands.sql(postgres.url("postgres"), "CREATE DATABASE moved");
            from = postgres.url("postgres");
            to = postgres.url("moved");
            lines.add("| measure | ours | of | ratio |");
            lines.add("|---|---|---|---|");
            run();
            Files.write(file, lines);
            lines.forEach(System.out::println);
        } finally {
            Trees.remove(folder);
        }
    }

    final Path folder() {
        return folder;
    }

    final Commands commands() {
        return commands;
    }

    /** The database that is moved from. */
    final String from() {
        return from;
    }

    /** The database that is moved to. */
    final String to() {
        return to;
    }

    /** A line of the table. */
    final void line(String what, double ours, String of, double baseline) {
        line(String.format(
                Locale.ROOT, "| %s | %.2f s | %s %.2f s | %.2f |", what, ours, of, baseline, ours / baseline));
    }

    final void line(String text) {
        lines.add(text);
    }
}
