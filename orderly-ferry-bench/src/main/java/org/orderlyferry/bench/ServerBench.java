package org.orderlyferry.bench;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.LocalMaria;
import org.orderlyferry.testkit.servers.LocalPostgres;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/**
 * Exports, loads and reconciliations on real servers, each next to what the server itself, or a plain loop, takes for the
 * same records; in turns, medians of all rounds. Definitions, checksums and tallies are taken in passing.
 */
public final class ServerBench {

    private static final int ROUNDS = Integer.getInteger("bench.rounds", 5);
    private static final long ROWS = Long.getLong("bench.rows", 1_000_000L);
    private static final long LOOP_ROWS = ROWS / 10;
    private static final int LANES = Integer.getInteger("bench.lanes", 2);

    private final Path folder;
    private final String postgres;
    private final String maria;
    private final List<Ratio> ratios = new ArrayList<>();

    private ServerBench(Path folder, String postgres, String maria) {
        this.folder = folder;
        this.postgres = postgres;
        this.maria = maria;
    }

    /**
     * Runs it all.
     *
     * @param arguments where to write the figures as JSON, and the chart
     */
    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("ferry-bench");
        // the server writes its own files there, as another user
        Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwxrwxrwx"));
        try (LocalPostgres postgres = LocalPostgres.start("max_wal_size=4GB", "shared_buffers=256MB");
                LocalMaria maria = LocalMaria.start("--local-infile=1", "--innodb-buffer-pool-size=512M")) {
            ServerBench bench = new ServerBench(folder, postgres.url("postgres"), maria.url("test"));
            bench.prepare();
            bench.part("postgres", bench::postgres);
            bench.part("maria", bench::maria);
            bench.part("sqlite", bench::sqlite);
            bench.part("reconcile", bench::reconcile);
            bench.part("skew", bench::skew);
            bench.part("growth", bench::growth);
            Report.print(bench.ratios);
            if (arguments.length == 2) {
                Report.json(bench.ratios, Path.of(arguments[0]));
                Report.chart(bench.ratios, Path.of(arguments[1]));
            }
        } finally {
            delete(folder);
        }
    }

    /** Measures one part; {@code -Dbench.parts=postgres,maria} leaves out the others. */
    private void part(String name, Measure.Work work) throws Exception {
        String wanted = System.getProperty("bench.parts", "");
        if (wanted.isEmpty() || List.of(wanted.split(",")).contains(name)) {
            work.run();
        }
    }

    private static void delete(Path folder) throws IOException {
        if (Files.notExists(folder)) {
            return;
        }
        Trees.remove(folder);
    }

    private static void run(String url, String... statements) throws SQLException {
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        }
    }

    private void prepare() throws Exception {
        run(postgres, SampleTable.create(SampleTable.NAME, false), "CREATE DATABASE target");
        try (Connection connection = DriverManager.getConnection(postgres)) {
            SampleTable.fill(connection, SampleTable.NAME, ROWS);
        }
        export(postgres, set(), LANES, ROWS / 4);
        copyOut(SampleTable.NAME);
        load(set(), maria, LANES);
        System.out.printf(Locale.ROOT, "%,d rows, %d rounds, %d lanes%n", ROWS, ROUNDS, LANES);
    }

    private Path set() {
        return folder.resolve("set");
    }

    private Path csv() {
        return folder.resolve("copied.csv");
    }

    private String targetUrl() {
        return postgres.replace("/postgres?", "/target?");
    }

    private void copyOut(String table) throws SQLException {
        run(postgres, "COPY " + table + " TO '" + csv() + "' (FORMAT csv, HEADER)");
    }

    private static void export(String url, Path set, int lanes) {
        export(url, set, lanes, Cut.DEFAULT_ROWS);
    }

    private static void export(String url, Path set, int lanes, long sliceRows) {
        try (Place place = Places.open(url)) {
            Export.from(place)
                    .tables(SampleTable.NAME)
                    .lanes(lanes)
                    .sliceRows(sliceRows)
                    .overwrite(true)
                    .to(set);
        }
    }

    private static void load(Path set, String url, int lanes) {
        try (Place place = Places.open(set.toString());
                TargetPlace target = Places.openTarget(url)) {
            Load.from(place).mode(LoadMode.REPLACE).lanes(lanes).into(target);
        }
    }

    private void postgres() throws Exception {
        Measure copyTo = Measure.of("COPY to CSV", () -> copyOut(SampleTable.NAME));
        Measure export = Measure.of("export", () -> export(postgres, folder.resolve("x"), LANES));
        Measure export1 = Measure.of("export, 1 lane", () -> export(postgres, folder.resolve("x1"), 1, ROWS / 4));
        Measure export2 = Measure.of("export, 2 lanes", () -> export(postgres, folder.resolve("x2"), 2, ROWS / 4));
        Measure export4 = Measure.of("export, 4 lanes", () -> export(postgres, folder.resolve("x4"), 4, ROWS / 4));
        Measure copyFrom = Measure.of(
                "COPY from CSV",
                () -> run(
                        targetUrl(),
                        "DROP TABLE IF EXISTS copied",
                        SampleTable.create("copied", false),
                        "COPY copied FROM '" + csv() + "' (FORMAT csv, HEADER)"));
        Measure load = Measure.of("load", () -> load(set(), targetUrl(), LANES));
        Measure loop = Measure.of("INSERT loop", () -> {
            run(targetUrl(), "DROP TABLE IF EXISTS looped", SampleTable.create("looped", false));
            SampleTable.insertLoop(postgres, targetUrl(), "looped", SampleTable.NAME, LOOP_ROWS, false);
        });
        Measure.rounds(ROUNDS, List.of(copyTo, export, export1, export2, export4, copyFrom, load, loop));
        ratios.add(Ratio.of("PostgreSQL export / COPY to CSV", export, copyTo, 1.0));
        ratios.add(Ratio.of("PostgreSQL export, 4 slices, 1 lane / COPY to CSV", export1, copyTo, 1.0));
        ratios.add(Ratio.of("PostgreSQL export, 4 slices, 2 lanes / COPY to CSV", export2, copyTo, 1.0));
        ratios.add(Ratio.of("PostgreSQL export, 4 slices, 4 lanes / COPY to CSV", export4, copyTo, 1.0));
        ratios.add(Ratio.of("PostgreSQL load / COPY from CSV", load, copyFrom, 1.0));
        ratios.add(new Ratio("PostgreSQL load / INSERT loop", load.median(), loop.median() * ROWS / LOOP_ROWS, 0.2));
    }

    private void maria() throws Exception {
        String columns = "(id, code, note, amount, price, ratio, day, moment, @flag, @remark) SET flag = @flag = 't',"
                + " remark = NULLIF(@remark, '')";
        Measure loadData = Measure.of(
                "LOAD DATA LOCAL",
                () -> run(
                        maria + "&allowLocalInfile=true",
                        "DROP TABLE IF EXISTS copied",
                        SampleTable.create("copied", true),
                        "LOAD DATA LOCAL INFILE '" + csv()
                                + "' INTO TABLE copied CHARACTER SET utf8mb4 FIELDS TERMINATED BY ','"
                                + " OPTIONALLY ENCLOSED BY '\"' ESCAPED BY '' IGNORE 1 LINES " + columns));
        Measure load = Measure.of("load", () -> load(set(), maria, LANES));
        Measure stream = Measure.of("streaming loop", this::streamingLoop);
        Measure export = Measure.of("export", () -> export(maria, folder.resolve("m"), LANES));
        Measure loop = Measure.of("INSERT loop", () -> {
            run(maria, "DROP TABLE IF EXISTS looped", SampleTable.create("looped", true));
            SampleTable.insertLoop(postgres, maria, "looped", SampleTable.NAME, LOOP_ROWS, false);
        });
        Measure.rounds(ROUNDS, List.of(loadData, load, stream, export, loop));
        ratios.add(Ratio.of("MariaDB load / LOAD DATA LOCAL", load, loadData, 1.15));
        ratios.add(Ratio.of("MariaDB export / streaming loop", export, stream, 0.8));
        ratios.add(new Ratio("MariaDB load / INSERT loop", load.median(), loop.median() * ROWS / LOOP_ROWS, 0.2));
    }

    /** What many do today: a streamed query, written as CSV by a loop. */
    private void streamingLoop() throws SQLException, IOException {
        try (Connection connection = DriverManager.getConnection(maria);
                Statement statement = connection.createStatement();
                BufferedWriter out = Files.newBufferedWriter(folder.resolve("loop.csv"))) {
            statement.setFetchSize(1_000);
            try (ResultSet row = statement.executeQuery("SELECT * FROM " + SampleTable.NAME)) {
                while (row.next()) {
                    for (int i = 1; i <= 10; i++) {
                        String value = row.getString(i);
                        if (i > 1) {
                            out.write(',');
                        }
                        if (value != null) {
                            boolean quoted =
                                    value.indexOf('"') >= 0 || value.indexOf(',') >= 0 || value.indexOf('\n') >= 0;
                            out.write(quoted ? '"' + value.replace("\"", "\"\"") + '"' : value);
                        }
                    }
                    out.newLine();
                }
            }
        }
    }

    private void sqlite() throws Exception {
        Measure loop = Measure.of("INSERT loop", () -> {
            Path file = folder.resolve("loop.sqlite");
            Files.deleteIfExists(file);
            String url = "jdbc:sqlite:" + file;
            run(url, SampleTable.create(SampleTable.NAME, false));
            SampleTable.insertLoop(postgres, url, SampleTable.NAME, SampleTable.NAME, ROWS, true);
        });
        Measure load = Measure.of("load", () -> {
            Path file = folder.resolve("ours.sqlite");
            Files.deleteIfExists(file);
            load(set(), file.toString(), LANES);
        });
        Measure.rounds(Math.min(3, ROUNDS), List.of(loop, load));
        ratios.add(Ratio.of("SQLite load / INSERT loop in one transaction", load, loop, 1.3));
    }

    private void reconcile() throws Exception {
        Measure copies = Measure.of("COPY to CSV twice", () -> {
            copyOut(SampleTable.NAME);
            copyOut(SampleTable.NAME);
        });
        Measure reconcile = Measure.of("reconcile", () -> {
            try (Place a = Places.open(postgres);
                    Place b = Places.open(targetUrl())) {
                if (!Reconcile.between(a, b).tables(SampleTable.NAME).compare().isEqual()) {
                    throw new IllegalStateException("the two sides differ");
                }
            }
        });
        Measure.rounds(ROUNDS, List.of(copies, reconcile));
        ratios.add(Ratio.of("reconcile by digests / COPY to CSV twice", reconcile, copies, 1.0));
    }

    private void skew() throws Exception {
        run(
                postgres,
                "CREATE TABLE skewed AS SELECT CASE WHEN i % 50 = 0 THEN i * 1000000007 ELSE i END AS id, note, price"
                        + " FROM (SELECT id AS i, note, price FROM " + SampleTable.NAME + ") t",
                "ALTER TABLE skewed ADD PRIMARY KEY (id)",
                "ANALYZE skewed");
        // the first round warms up; of the others, each slice's median counts
        List<List<Double>> rounds = new ArrayList<>();
        for (int round = 0; round <= ROUNDS; round++) {
            rounds.add(sliceTimes());
        }
        List<Double> times = new ArrayList<>();
        for (int slice = 0; slice < rounds.get(0).size(); slice++) {
            int number = slice;
            times.add(rounds.stream()
                    .skip(1)
                    .map(r -> r.get(number))
                    .sorted()
                    .toList()
                    .get(ROUNDS / 2));
        }
        double mean = times.stream().mapToDouble(Double::doubleValue).average().orElse(0);
        double slowest = times.stream().mapToDouble(Double::doubleValue).max().orElse(0);
        ratios.add(new Ratio("slowest slice / mean slice, skewed key", slowest, mean, 1.25));
    }

    private List<Double> sliceTimes() {
        List<Double> times = new ArrayList<>();
        try (Place place = Places.open(postgres)) {
            Export.from(place)
                    .tables("skewed")
                    .sliceRows(ROWS / 10)
                    .overwrite(true)
                    .listener(new ProgressListener() {
                        private long started;

                        @Override
                        public void sliceStarted(TableName table) {
                            started = System.nanoTime();
                        }

                        @Override
                        public void sliceFinished(TableName table) {
                            times.add((System.nanoTime() - started) / 1e9);
                        }
                    })
                    .to(folder.resolve("skewed"));
        }
        return times;
    }

    private void growth() throws Exception {
        List<Double> perRow = new ArrayList<>();
        for (long rows : List.of(ROWS / 10, ROWS, ROWS * 10)) {
            String table = "grown_" + rows;
            run(postgres, SampleTable.create(table, false));
            try (Connection connection = DriverManager.getConnection(postgres)) {
                SampleTable.fill(connection, table, rows);
            }
            Measure measure = Measure.of(table, () -> {
                try (Place place = Places.open(postgres)) {
                    Export.from(place)
                            .tables(table)
                            .lanes(LANES)
                            .overwrite(true)
                            .to(folder.resolve("grown"));
                }
                load(folder.resolve("grown"), targetUrl(), LANES);
                run(targetUrl(), "DROP TABLE " + table);
            });
            Measure.rounds(rows > ROWS ? 1 : 3, List.of(measure));
            perRow.add(measure.median() / rows);
            System.out.printf(
                    Locale.ROOT,
                    "%,d rows: %.1f s out and in, %.2f µs a row%n",
                    rows,
                    measure.median(),
                    measure.median() / rows * 1e6);
            run(postgres, "DROP TABLE " + table);
        }
        ratios.add(new Ratio("time per row, 10 times as many rows", perRow.get(2) * 1e6, perRow.get(1) * 1e6, 1.15));
        ratios.add(new Ratio("time per row, 100 times as many rows", perRow.get(2) * 1e6, perRow.get(0) * 1e6, 1.15));
    }
}
