package org.orderlyferry.bench;

import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.format.csv.CsvFormat;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.fit.CheckedReader;
import org.orderlyferry.tally.TallyTaker;

/**
 * How fast a CSV file is read, next to {@link BufferedReader#readLine} on the same file, in turns. Prints megabytes a
 * second and the ratio to the baseline, medians of all rounds.
 *
 * <pre>{@code
 * mvn -q -pl orderly-ferry-bench -am package -DskipTests
 * java -Xmx256m -cp 'orderly-ferry-bench/target/classes:orderly-ferry-bench/target/libraries/*' \
 *     org.orderlyferry.bench.CsvReadingBench
 * }</pre>
 */
public final class CsvReadingBench {

    private static final int ROWS = 2_000_000;
    private static final int ROUNDS = 7;

    private static final TableDefinition TABLE = TableDefinition.named("specimen")
            .column("id", LogicalType.BIGINT)
            .column("code", LogicalType.varchar(12))
            .column("name", LogicalType.CLOB)
            .column("count", LogicalType.INTEGER)
            .column("value", LogicalType.decimal(12, 2))
            .column("mass", LogicalType.DOUBLE)
            .column("gathered", LogicalType.DATE)
            .column("catalogued", LogicalType.of(TypeName.TIMESTAMP, 3))
            .column("verified", LogicalType.BOOLEAN)
            .column("remarks", LogicalType.CLOB)
            .build();

    private interface Pass {
        long rows(Path file) throws IOException;
    }

    private record Measured(String name, Pass pass, List<Double> rates) {}

    private CsvReadingBench() {}

    /** Runs the measurement. */
    public static void main(String[] arguments) throws IOException {
        Path file = Files.createTempFile("csv-reading", ".csv");
        try {
            write(file);
            long bytes = Files.size(file);
            List<Measured> all = List.of(
                    new Measured("BufferedReader.readLine", CsvReadingBench::lines, new ArrayList<>()),
                    new Measured("CsvFormat reader", f -> records(f, false, false), new ArrayList<>()),
                    new Measured("… with values checked", f -> records(f, true, false), new ArrayList<>()),
                    new Measured("… and tallied", f -> records(f, true, true), new ArrayList<>()));
            for (int round = 0; round <= ROUNDS; round++) {
                for (Measured measured : all) {
                    long start = System.nanoTime();
                    long rows = measured.pass().rows(file);
                    double seconds = (System.nanoTime() - start) / 1e9;
                    if (rows < ROWS) {
                        throw new IllegalStateException(measured.name() + " saw " + rows + " rows");
                    }
                    if (round > 0) {
                        measured.rates().add(bytes / 1e6 / seconds);
                    }
                }
            }
            System.out.printf(Locale.ROOT, "%,d rows, %,d MB, median of %d rounds%n", ROWS, bytes / 1_000_000, ROUNDS);
            double baseline = median(all.get(0).rates());
            for (Measured measured : all) {
                double rate = median(measured.rates());
                System.out.printf(Locale.ROOT, "%-26s %6.0f MB/s   %.2f%n", measured.name(), rate, rate / baseline);
            }
        } finally {
            Files.delete(file);
        }
    }

    private static double median(List<Double> rates) {
        return rates.stream().sorted().toList().get(rates.size() / 2);
    }

    private static long lines(Path file) throws IOException {
        long lines = 0;
        try (BufferedReader reader = Files.newBufferedReader(file)) {
            while (reader.readLine() != null) {
                lines++;
            }
        }
        return lines;
    }

    private static long records(Path file, boolean checked, boolean tallied) throws IOException {
        CsvFormat format = new CsvFormat(CsvDialect.RFC_4180);
        long rows = 0;
        RecordBatch batch = new RecordBatch();
        TallyTaker taker = TallyTaker.of(TABLE.columns());
        try (RecordReader plain =
                        format.reader(Files.newInputStream(file), file.toString(), TABLE, TABLE.columnNames());
                RecordReader reader = checked ? new CheckedReader(plain) : plain) {
            while (reader.read(batch)) {
                rows += batch.rows();
                if (tallied) {
                    taker.add(batch);
                }
            }
        }
        return rows;
    }

    private static void write(Path file) throws IOException {
        Random random = new Random(417);
        try (BufferedWriter out = Files.newBufferedWriter(file, StandardCharsets.UTF_8)) {
            out.write(String.join(",", TABLE.columnNames()) + "\r\n");
            for (int id = 1; id <= ROWS; id++) {
                String remarks = id % 5 == 0 ? "" : id % 7 == 0 ? "\"near a \"\"bog\"\", wet\"" : "on wet ground";
                out.write(id + "," + String.format(Locale.ROOT, "%07d", id) + ",Velmora tarnifolia "
                        + random.nextInt(5000) + ","
                        + random.nextInt(1000) + "," + random.nextInt(9999) + "." + (10 + random.nextInt(89)) + ","
                        + random.nextInt(9999) / 1000.0 + ",2031-04-" + (10 + random.nextInt(20))
                        + ",2031-04-09T07:30:" + (10 + random.nextInt(49)) + "." + (100 + random.nextInt(899) | 1) + ","
                        + random.nextBoolean() + "," + remarks + "\r\n");
            }
        }
    }
}
