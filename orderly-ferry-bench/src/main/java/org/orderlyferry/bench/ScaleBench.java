package org.orderlyferry.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import org.orderlyferry.bench.ScaleSimulation.Outcome;
import org.orderlyferry.bench.ScaleSimulation.Work;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.work.Export;

/**
 * What a slice, a record and a connection cost here; whether {@link ScaleSimulation} says of one, two and four lanes what they take; and what
 * it says of clusters. {@code -Dbench.part=0.1} takes tables a tenth as large.
 */
public final class ScaleBench extends CommandBench {

    private static final int ROUNDS = Integer.getInteger("bench.rounds", 3);
    private static final double MB = 1e6;
    private static final double TB = 1e12;
    private static final int SLICES = 16;
    private static final int MANY = 96;

    private ScaleBench() {}

    /**
     * Runs it all.
     *
     * @param arguments where to write the tables, in Markdown
     */
    public static void main(String[] arguments) throws Exception {
        new ScaleBench().into(Path.of(arguments[0]));
    }

    private Path set() {
        return folder().resolve("set");
    }

    private Measure export(String name, String table, long rows, int slices, int lanes) {
        return Measure.of(name, () -> commands()
                .ferry(
                        "export",
                        from(),
                        set(),
                        table,
                        "--overwrite",
                        "--lanes",
                        lanes,
                        "--slice-rows",
                        Math.max(1, rows / slices)));
    }

    @Override
    void run() throws Exception {
        Shape usual = Shape.all(PART).get(0);
        Commands.sql(from(), usual.statements().toArray(String[]::new));
        Commands.sql(from(), "CREATE TABLE none (id int PRIMARY KEY)", "VACUUM ANALYZE");
        long rows = Math.round(1_000_000 * PART);
        Measure start = export("start", "none", 1, 1, 1);
        Map<Integer, Measure> lanes = new LinkedHashMap<>();
        for (int count : List.of(1, 2, 4)) {
            lanes.put(count, export("lanes", "usual", rows, SLICES, count));
        }
        Measure many = export("many", "usual", rows, MANY, 1);
        for (int round = 0; round < ROUNDS; round++) {
            start.round();
            many.round();
            for (Measure one : lanes.values()) {
                one.round();
            }
        }
        double bytes = size(set().resolve("data"));
        double overhead = Math.max(0.001, (many.median() - lanes.get(1).median()) / (MANY - SLICES));
        double lane = bytes / (lanes.get(1).median() - start.median() - SLICES * overhead);
        double both = bytes / (lanes.get(2).median() - start.median() - SLICES * overhead / 2);
        ScaleSimulation here = new ScaleSimulation(lane, overhead, 0.001, both, 1e12, 1e12, 2);
        measured(start.median(), overhead, lane, both);
        for (Map.Entry<Integer, Measure> one : lanes.entrySet()) {
            Outcome outcome = here.run(new Work(bytes, bytes / SLICES, 1, one.getKey()));
            line(text(
                    "| export, lanes: %d | %.1f s | %.1f s | %.2f |",
                    one.getKey(),
                    one.getValue().median(),
                    start.median() + outcome.seconds(),
                    (start.median() + outcome.seconds()) / one.getValue().median()));
        }
        skewed();
        clusters(lane, overhead);
    }

    private static String text(String form, Object... values) {
        return String.format(Locale.ROOT, form, values);
    }

    private void measured(double start, double overhead, double lane, double both) {
        line("");
        line("| cost | here |");
        line("|---|---|");
        line(text("| start of a command, with its connections | %.2f s |", start));
        line(text("| a slice besides its records | %.0f ms |", overhead * 1000));
        line(text("| what one lane moves out of PostgreSQL into a set | %.0f MB/s |", lane / MB));
        line(text("| what source and lanes on these two cores move at most | %.0f MB/s |", both / MB));
        line("");
        line("| | measured | simulated | ratio |");
        line("|---|---|---|---|");
    }

    /** Keys that lie close together at one end, and far apart at the other. */
    private void skewed() throws Exception {
        long rows = Math.round(20_000_000 * PART);
        Commands.sql(
                from(),
                "DROP TABLE usual",
                "CREATE TABLE skewed (id bigint PRIMARY KEY, n int, note text)",
                "INSERT INTO skewed SELECT (power(g / 1000.0, 3))::bigint * 100000 + g % 100000, g % 977, CASE WHEN g > "
                        + rows
                        + " * 0.9 THEN repeat('moss and fern ', 6) ELSE 'moss' END FROM generate_series(1, " + rows
                        + ") g ON CONFLICT DO NOTHING",
                "VACUUM ANALYZE skewed");
        Map<Long, Double> ends = new ConcurrentHashMap<>();
        long began = System.nanoTime();
        try (Place source = Places.open(from())) {
            Export.from(source)
                    .tables("skewed")
                    .lanes(2)
                    .overwrite(true)
                    .listener(new ProgressListener() {
                        @Override
                        public void sliceFinished(TableName table) {
                            ends.put(Thread.currentThread().getId(), (System.nanoTime() - began) / 1e9);
                        }
                    })
                    .to(set());
        }
        Collection<Double> all = ends.values();
        double mean = all.stream().mapToDouble(d -> d).average().orElseThrow();
        double slowest = all.stream().mapToDouble(d -> d).max().orElseThrow();
        line("");
        line(text(
                "%,d records with a skewed key and longer texts at one end, two lanes: the slowest lane took %.1f s, %.2f of the"
                        + " mean.",
                rows, slowest, slowest / mean));
    }

    private void clusters(double lane, double overhead) {
        // of a middling server each: ten gigabits a second at the source, a target that takes as much as four lanes of
        // this kind
        double source = 1000 * MB;
        double target = 8 * lane;
        ScaleSimulation cluster = new ScaleSimulation(lane, overhead + 0.7, 0.03, source, 1000 * MB, target, 8);
        line("");
        line(text(
                "A source that gives %.0f MB/s, a target that takes %.0f MB/s, machines of 8 cores with 1,000 MB/s of network each, a lane of %.0f MB/s,"
                        + " %.1f s a slice besides its records, 30 ms of the leading process:",
                source / MB, target / MB, lane / MB, overhead + 0.7));
        line("");
        line("| TB | machines | way | lanes | slices of | takes | slowest lane / mean | what decides |");
        line("|---|---|---|---|---|---|---|---|");
        for (double terabytes : List.of(1.0, 10.0, 100.0)) {
            for (int machines : List.of(1, 10, 100)) {
                row(cluster.onlyFrom(), terabytes, machines, "out");
                row(cluster.onlyInto(), terabytes, machines, "in");
            }
        }
    }

    private void row(ScaleSimulation cluster, double terabytes, int machines, String way) {
        int lanes = Math.min(machines * 8, cluster.lanesThatPay());
        double best = Double.MAX_VALUE;
        double size = 0;
        Outcome found = null;
        for (double slice = 64 * MB; slice <= 16_000 * MB; slice *= 2) {
            Outcome outcome = cluster.run(new Work(terabytes * TB, slice, machines, lanes));
            if (outcome.seconds() < best * 0.98) {
                best = outcome.seconds();
                size = slice;
                found = outcome;
            }
        }
        line(text(
                "| %.0f | %d | %s | %d | %.1f GB | %.1f h | %.2f | %s |",
                terabytes, machines, way, lanes, size / 1e9, best / 3600, found.slowest(), found.bottleneck()));
    }

    private static double size(Path folder) throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            double sum = 0;
            for (Path file : all.filter(Files::isRegularFile).toList()) {
                sum += Files.size(file);
            }
            return sum;
        }
    }
}
