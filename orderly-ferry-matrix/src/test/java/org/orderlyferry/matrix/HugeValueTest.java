package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.cli.FerryProcess;
import org.orderlyferry.testkit.servers.Servers;

/** A cell of 100 MB, of bytes and of text, out of PostgreSQL and into each system, with a heap of 512 MB; comparing may hold it twice. */
class HugeValueTest {

    private static final int SIZE = 100_000_000;

    @TempDir
    private Path folder;

    private static String ferry(String... arguments) throws Exception {
        FerryProcess ferry = FerryProcess.run(arguments[0].equals("reconcile") ? "800m" : "512m", (Object[]) arguments);
        assertThat(ferry.code())
                .as(String.join(" ", arguments) + "\n" + ferry.told())
                .isZero();
        return ferry.told();
    }

    @Test
    void aCellOf100MegabytesGoesThrough() throws Exception {
        String url = Servers.newPostgres();
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE TABLE sheet (id INTEGER PRIMARY KEY, scan BYTEA, story TEXT)");
            try (PreparedStatement insert = connection.prepareStatement("INSERT INTO sheet VALUES (?, ?, NULL)")) {
                byte[] scan = new byte[SIZE];
                for (int i = 0; i < SIZE; i++) {
                    scan[i] = (byte) (i * 31 + i / 977);
                }
                insert.setInt(1, 1);
                insert.setBytes(2, scan);
                insert.executeUpdate();
            }
            statement.execute("INSERT INTO sheet VALUES (2, NULL, repeat('moss, \"fern\" and é' || chr(10), "
                    + SIZE / 20 + ")), (3, '\\x00', 'small')");
        }
        String set = folder.resolve("set").toString();
        ferry("export", url, set, "--lanes", "1");
        for (String target : List.of(Servers.newPostgres(), Servers.newMaria())) {
            ferry("load", set, target, "--lanes", "1");
            assertThat(ferry("reconcile", url, target)).contains("1 of 1 table equal.");
        }
        // SQLite's driver gives a text as a String only, for which 512 MB aren't enough beside the rest
        Path file = folder.resolve("huge.sqlite");
        ferry("load", set, file.toString());
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file);
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery("SELECT MAX(LENGTH(scan)), MAX(LENGTH(story)) FROM sheet")) {
            row.next();
            assertThat(row.getLong(1)).isEqualTo(SIZE);
            assertThat(row.getLong(2))
                    .as("characters, one in twenty of two bytes")
                    .isEqualTo(SIZE / 20 * 19);
        }
    }
}
