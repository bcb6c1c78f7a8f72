package org.orderlyferry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/**
 * Loads into systems that are known by their drivers alone, as whole commands next to a prepared batch loop; in turns, medians of all
 * rounds. Each is a file of this machine's that the command itself opens.
 */
public final class DriversBench {

    private static final int ROUNDS = Integer.getInteger("bench.rounds", 3);
    private static final long MEGABYTES = Long.getLong("bench.megabytes", 100);

    private DriversBench() {}

    /** A system, and the address of a database in a folder. */
    private enum Known {
        DERBY("Apache Derby", "jdbc:derby:%s/reading;create=true"),
        HSQLDB("HSQLDB", "jdbc:hsqldb:file:%s/reading;hsqldb.default_table_type=cached;shutdown=true");

        private final String named;
        private final String address;

        Known(String named, String address) {
            this.named = named;
            this.address = address;
        }

        private String url(Path folder) {
            return String.format(java.util.Locale.ROOT, address, folder);
        }
    }

    /** Runs it all. */
    public static void main(String[] arguments) throws Exception {
        System.setProperty("derby.stream.error.method", DriversBench.class.getName() + ".nowhere");
        Path folder = Files.createTempDirectory("ferry-drivers");
        try {
            Path csv = folder.resolve("reading.csv");
            long rows = FormatBench.sample(csv, MEGABYTES * 1_000_000);
            Path set = set(folder, csv);
            System.out.printf(java.util.Locale.ROOT, "%,d rows, %d rounds%n", rows, ROUNDS);
            List<Ratio> ratios = new ArrayList<>();
            for (Known known : Known.values()) {
                ratios.add(measured(known, folder, csv, set, rows));
            }
            Report.print(ratios);
        } finally {
            Trees.remove(folder);
        }
    }

    /** Derby's log goes nowhere. */
    public static java.io.OutputStream nowhere() {
        return java.io.OutputStream.nullOutputStream();
    }

    /** The same records with the definition that the loop's table has. */
    private static Path set(Path folder, Path csv) throws Exception {
        Path database = folder.resolve("reading");
        Commands.sql(
                "jdbc:h2:" + database,
                "CREATE TABLE reading (" + PlainBatches.COLUMNS + ") AS SELECT * FROM CSVREAD('" + csv + "')");
        Path set = folder.resolve("set");
        new Commands(folder).ferry("export", "jdbc:h2:" + database, set);
        return set;
    }

    private static Ratio measured(Known known, Path folder, Path csv, Path set, long rows) throws Exception {
        Commands commands = new Commands(folder);
        Path by = folder.resolve("by-loop");
        Path ours = folder.resolve("ours");
        Measure loop = Measure.of(known.named + ", loop", () -> {
            Trees.remove(by);
            List<String> command =
                    Commands.java(System.getProperty("java.class.path"), PlainBatches.class.getName(), false);
            command.add(1, "-Dderby.stream.error.file=" + folder.resolve("derby.log"));
            command.addAll(List.of(known.url(by), csv.toString()));
            commands.run(command);
        });
        Measure load = Measure.of(known.named + ", load", () -> {
            Trees.remove(ours);
            commands.ferry("load", set, known.url(ours));
        });
        Measure.rounds(ROUNDS, List.of(loop, load));
        check(known.url(ours), rows);
        return Ratio.of("load into " + known.named + " / a loop of prepared batches", load, loop, 1.1);
    }

    private static void check(String url, long rows) throws Exception {
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery("SELECT COUNT(*) FROM reading")) {
            if (!row.next() || row.getLong(1) != rows) {
                throw new IllegalStateException(url + " hasn't all rows");
            }
        }
    }
}
