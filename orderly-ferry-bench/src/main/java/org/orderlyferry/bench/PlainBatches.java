package org.orderlyferry.bench;

import java.io.BufferedReader;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Date;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.Statement;
import java.sql.Timestamp;
import java.sql.Types;
import java.time.LocalDate;
import java.time.LocalDateTime;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/** What somebody would write over a driver: a CSV file into a table by prepared batches. A process of its own. */
final class PlainBatches {

    private static final int BATCH = 1000;
    private static final int BATCHES_A_COMMIT = 10;

    /** The table's columns, as all systems here have them. */
    static final String COLUMNS = "id BIGINT NOT NULL PRIMARY KEY, code VARCHAR(20), note VARCHAR(80), amount INTEGER, "
            + "price DECIMAL(12,2), ratio DOUBLE PRECISION, \"DAY\" DATE, moment TIMESTAMP, flag BOOLEAN, "
            + "remark VARCHAR(200)";

    private PlainBatches() {}

    /**
     * Loads it.
     *
     * @param arguments the database's URL, and the file
     */
    public static void main(String[] arguments) throws Exception {
        try (Connection connection = DriverManager.getConnection(arguments[0]);
                BufferedReader in = Files.newBufferedReader(Path.of(arguments[1]));
                CSVParser records = CSVFormat.RFC4180
                        .builder()
                        .setHeader()
                        .setSkipHeaderRecord(true)
                        .get()
                        .parse(in)) {
            try (Statement statement = connection.createStatement()) {
                statement.execute("CREATE TABLE reading (" + COLUMNS + ")");
            }
            connection.setAutoCommit(false);
            load(connection, records);
            connection.commit();
        }
    }

    private static void load(Connection connection, CSVParser records) throws Exception {
        try (PreparedStatement insert =
                connection.prepareStatement("INSERT INTO reading VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)")) {
            int pending = 0;
            int batches = 0;
            for (CSVRecord record : records) {
                insert.setLong(1, Long.parseLong(record.get(0)));
                insert.setString(2, record.get(1));
                insert.setString(3, record.get(2));
                insert.setInt(4, Integer.parseInt(record.get(3)));
                insert.setBigDecimal(5, new BigDecimal(record.get(4)));
                insert.setDouble(6, Double.parseDouble(record.get(5)));
                insert.setDate(7, Date.valueOf(LocalDate.parse(record.get(6))));
                insert.setTimestamp(8, Timestamp.valueOf(LocalDateTime.parse(record.get(7))));
                insert.setBoolean(9, Boolean.parseBoolean(record.get(8)));
                if (record.get(9).isEmpty()) {
                    insert.setNull(10, Types.VARCHAR);
                } else {
                    insert.setString(10, record.get(9));
                }
                insert.addBatch();
                if (++pending == BATCH) {
                    insert.executeBatch();
                    pending = 0;
                    if (++batches % BATCHES_A_COMMIT == 0) {
                        connection.commit();
                    }
                }
            }
            insert.executeBatch();
        }
    }
}
