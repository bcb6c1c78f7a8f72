package org.orderlyferry.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Stream;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Verdict;
import org.orderlyferry.report.ComparedCounts;
import org.orderlyferry.report.KeptCount;
import org.orderlyferry.report.MovedCounts;
import org.orderlyferry.report.RecordedComparison;
import org.orderlyferry.report.RecordedEnd;
import org.orderlyferry.report.RecordedSet;
import org.orderlyferry.report.SetFile;
import org.orderlyferry.report.Software;
import org.orderlyferry.report.WorkKind;
import org.orderlyferry.report.WorkRecord;
import org.orderlyferry.report.WorkStatus;
import org.orderlyferry.report.WorkStep;
import org.orderlyferry.testkit.servers.LocalPostgres;

/**
 * Two databases of one PostgreSQL server compared by commands: record by record next to by digests, and a report of many
 * tables. {@code -Dbench.part=0.1} takes tables a tenth as large.
 */
public final class ComparisonBench {

    private static final int ROUNDS = Integer.getInteger("bench.rounds", 5);
    private static final double PART = Double.parseDouble(System.getProperty("bench.part", "1"));
    private static final int TABLES = 2_000;

    private final Commands commands;
    private final Path folder;
    private final String from;
    private final String to;
    private final List<String> lines = new ArrayList<>();

    private ComparisonBench(Path folder, String from, String to) {
        this.folder = folder;
        this.commands = new Commands(folder);
        this.from = from;
        this.to = to;
    }

    /**
     * Runs it all.
     *
     * @param arguments where to write the table, in Markdown
     */
    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("ferry-comparison");
        try (LocalPostgres postgres = LocalPostgres.start("max_wal_size=4GB", "shared_buffers=256MB")) {
            Commands.sql(postgres.url("postgres"), "CREATE DATABASE moved");
            ComparisonBench bench = new ComparisonBench(folder, postgres.url("postgres"), postgres.url("moved"));
            bench.run();
            Files.write(Path.of(arguments[0]), bench.lines);
            bench.lines.forEach(System.out::println);
        } finally {
            remove(folder);
        }
    }

    private static void remove(Path folder) throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(path);
            }
        }
    }

    private void run() throws Exception {
        lines.add("| measure | ours | of | ratio |");
        lines.add("|---|---|---|---|");
        Shape usual = Shape.all(PART).get(0);
        for (String url : List.of(from, to)) {
            Commands.sql(url, usual.statements().toArray(String[]::new));
        }
        pair("depth rows, equal tables, a million rows", "usual", "--depth", "rows");
        pair("a sample of 1 % of them", "usual", "--sample", "1%");
        pair("totals by both servers' own SQL besides", "usual", "--server-totals");
        Commands.sql(to, "UPDATE usual SET amount = amount + 1 WHERE id % 1000 = 0", "VACUUM ANALYZE usual");
        pair("depth rows, 0.1 % of rows different, spread", "usual", "--depth", "rows");
        text(from, "");
        text(to, " COLLATE \"C\"");
        pair("depth rows, text keys under different collations, 0.1 % different", "label", "--depth", "rows");
        report();
    }

    /** The same records by a key of texts; one in a thousand is different already. */
    private void text(String url, String collation) throws Exception {
        Commands.sql(
                url,
                "CREATE TABLE label AS SELECT code, note, " + "amount, price, day FROM usual",
                "ALTER TABLE label ALTER COLUMN code TYPE varchar(20)" + collation,
                "ALTER TABLE label ADD PRIMARY KEY (code)",
                "VACUUM ANALYZE label");
    }

    private void pair(String what, String table, String... options) throws Exception {
        List<Object> command = new ArrayList<>(List.of("reconcile", from, to, table));
        Measure digests = Measure.of("digests", () -> commands.compared(command.toArray()));
        List<Object> other = new ArrayList<>(command);
        other.addAll(List.of(options));
        Measure ours = Measure.of("ours", () -> commands.compared(other.toArray()));
        for (int round = 0; round < ROUNDS; round++) {
            digests.round();
            ours.round();
        }
        lines.add(String.format(
                Locale.ROOT,
                "| %s / depth digests | %.2f s | digests %.2f s | %.2f |",
                what,
                ours.median(),
                digests.median(),
                ours.median() / digests.median()));
    }

    private void report() throws Exception {
        Path record = folder.resolve("record.json");
        many().write(record);
        Measure made = Measure.of("report", () -> commands.ferry("report", record));
        for (int round = 0; round < ROUNDS; round++) {
            made.round();
        }
        lines.add(String.format(
                Locale.ROOT,
                "| a report of %,d tables, the start of Java included | %.2f s | %,d kB | |",
                TABLES,
                made.median(),
                Files.size(folder.resolve("record.html")) / 1_000));
    }

    private static WorkRecord many() {
        List<MovedCounts> moved = new ArrayList<>();
        List<KeptCount> kept = new ArrayList<>();
        List<ComparedCounts> compared = new ArrayList<>();
        List<SetFile> files = new ArrayList<>();
        String digest = "0123456789abcdef0123456789abcdef";
        for (int i = 0; i < TABLES; i++) {
            String name = "herbarium.sheet_" + i;
            long rows = 1_000_000L + i;
            moved.add(new MovedCounts(name, rows, rows, 0, 0, 99_999_999, digest, 12.3, null, null));
            kept.add(new KeptCount(name, rows, digest));
            compared.add(new ComparedCounts(
                    name,
                    Verdict.EQUAL,
                    rows,
                    rows,
                    List.of(),
                    List.of(),
                    List.of(),
                    digest,
                    digest,
                    null,
                    null,
                    null,
                    List.of(),
                    List.of()));
            files.add(new SetFile("data/" + name + ".csv.gz", 12_345_678, digest + digest));
        }
        Instant began = Instant.parse("2031-05-02T23:10:00Z");
        return new WorkRecord(
                WorkRecord.VERSION,
                WorkKind.RUN,
                "a night",
                WorkStatus.FINISHED,
                Software.here(),
                began,
                began.plusSeconds(3_600),
                new RecordedEnd("old", "PostgreSQL"),
                new RecordedEnd("new", "MariaDB"),
                Map.of("onto", "replace"),
                List.of(
                        step("export", began, moved, kept, null),
                        step("load", began, moved, List.of(), null),
                        step(
                                "proof",
                                began,
                                List.of(),
                                List.of(),
                                new RecordedComparison(
                                        "source and target",
                                        Depth.DIGESTS,
                                        true,
                                        compared,
                                        List.of(),
                                        "",
                                        null,
                                        null,
                                        null))),
                List.of(),
                null,
                new RecordedSet("set", files, 0));
    }

    private static WorkStep step(
            String name, Instant began, List<MovedCounts> moved, List<KeptCount> kept, RecordedComparison compared) {
        return new WorkStep(
                name, began, 1_200, Map.of(), moved, kept, compared, List.of(), 0, 0, List.of(), List.of(), List.of(),
                Map.of());
    }
}
