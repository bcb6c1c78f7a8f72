package org.orderlyferry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.orderlyferry.testkit.records.LargeRecord;

/**
 * Two databases of one PostgreSQL server compared by commands: record by record next to by digests, and a report of many
 * tables. {@code -Dbench.part=0.1} takes tables a tenth as large.
 */
public final class ComparisonBench extends CommandBench {

    private static final int ROUNDS = Integer.getInteger("bench.rounds", 5);
    private static final int TABLES = 2_000;

    private ComparisonBench() {}

    /**
     * Runs it all.
     *
     * @param arguments where to write the table, in Markdown
     */
    public static void main(String[] arguments) throws Exception {
        new ComparisonBench().into(Path.of(arguments[0]));
    }

    @Override
    void run() throws Exception {
        Shape usual = Shape.all(PART).get(0);
        for (String url : List.of(from(), to())) {
            Commands.sql(url, usual.statements().toArray(String[]::new));
            // what was made is on the disk before anything is measured
            Commands.sql(url, "CHECKPOINT");
        }
        pair("depth rows, equal tables, a million rows", "usual", "--depth", "rows");
        pair("a sample of 1 % of them", "usual", "--sample", "1%");
        pair("totals by both servers' own SQL besides", "usual", "--server-totals");
        Commands.sql(to(), "UPDATE usual SET amount = amount + 1 WHERE id % 1000 = 0", "VACUUM ANALYZE usual");
        pair("depth rows, 0.1 % of rows different, spread", "usual", "--depth", "rows");
        text(from(), "");
        text(to(), " COLLATE \"C\"");
        pair("depth rows, text keys under different collations, 0.1 % different", "label", "--depth", "rows");
        report();
    }

    /** The same records by a key of texts; one in a thousand is different already. */
    private void text(String url, String collation) throws Exception {
        Commands.sql(
                url,
                "CREATE TABLE label AS SELECT code, note, amount, price, day FROM usual",
                "ALTER TABLE label ALTER COLUMN code TYPE varchar(20)" + collation,
                "ALTER TABLE label ADD PRIMARY KEY (code)",
                "VACUUM ANALYZE label");
    }

    private void pair(String what, String table, String... options) throws Exception {
        List<Object> command = new ArrayList<>(List.of("reconcile", from(), to(), table));
        Measure digests = Measure.of("digests", () -> commands().compared(command.toArray()));
        List<Object> other = new ArrayList<>(command);
        other.addAll(List.of(options));
        Measure ours = Measure.of("ours", () -> commands().compared(other.toArray()));
        for (int round = 0; round < ROUNDS; round++) {
            digests.round();
            ours.round();
        }
        line(what + " / depth digests", ours.median(), "digests", digests.median());
    }

    private void report() throws Exception {
        Path record = folder().resolve("record.json");
        LargeRecord.of(TABLES, -1).write(record);
        Measure made = Measure.of("report", () -> commands().ferry("report", record));
        for (int round = 0; round < ROUNDS; round++) {
            made.round();
        }
        line(String.format(
                Locale.ROOT,
                "| a report of %,d tables, the start of Java included | %.2f s | %,d kB | |",
                TABLES,
                made.median(),
                Files.size(folder().resolve("record.html")) / 1_000));
    }
}
