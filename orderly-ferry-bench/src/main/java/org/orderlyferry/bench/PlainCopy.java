package org.orderlyferry.bench;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import org.postgresql.PGConnection;

/**
 * What the servers' own clients do, where they aren't there: one table by the server's own bulk statement, to a file or out
 * of it, and nothing else. A process of its own, as theirs are. Arguments: what to do, the URL, the table or the statement,
 * the file.
 */
public final class PlainCopy {

    private static final byte[] NULL = "NULL".getBytes(StandardCharsets.US_ASCII);

    private PlainCopy() {}

    public static void main(String[] arguments) throws Exception {
        Path file = Path.of(arguments[3]);
        try (Connection connection = DriverManager.getConnection(arguments[1])) {
            switch (arguments[0]) {
                case "postgres-out" -> {
                    try (OutputStream out = Files.newOutputStream(file)) {
                        connection
                                .unwrap(PGConnection.class)
                                .getCopyAPI()
                                .copyOut("COPY " + arguments[2] + " TO STDOUT (FORMAT csv, HEADER)", out);
                    }
                }
                case "postgres-in" -> {
                    try (InputStream in = Files.newInputStream(file)) {
                        connection
                                .unwrap(PGConnection.class)
                                .getCopyAPI()
                                .copyIn("COPY " + arguments[2] + " FROM STDIN (FORMAT csv, HEADER)", in);
                    }
                }
                case "statement" -> {
                    try (Statement statement = connection.createStatement()) {
                        statement.execute(arguments[2]);
                    }
                }
                case "maria-out" -> tabbed(connection, arguments[2], file);
                default -> throw new IllegalArgumentException(arguments[0]);
            }
        }
    }

    /** As the server's client writes in batch mode: streamed, with tabs between values, backslashes before what's special. */
    private static void tabbed(Connection connection, String table, Path file) throws SQLException, IOException {
        try (Statement statement = connection.createStatement();
                OutputStream out = new BufferedOutputStream(Files.newOutputStream(file), 1 << 16)) {
            statement.setFetchSize(1_000);
            try (ResultSet row = statement.executeQuery("SELECT * FROM " + table)) {
                int columns = row.getMetaData().getColumnCount();
                boolean[] binary = new boolean[columns];
                for (int i = 0; i < columns; i++) {
                    binary[i] = row.getMetaData().getColumnClassName(i + 1).startsWith("byte[]")
                            || row.getMetaData().getColumnTypeName(i + 1).endsWith("BLOB");
                }
                while (row.next()) {
                    for (int i = 1; i <= columns; i++) {
                        if (i > 1) {
                            out.write('\t');
                        }
                        write(value(row, i, binary[i - 1]), out);
                    }
                    out.write('\n');
                }
            }
        }
    }

    private static byte[] value(ResultSet row, int column, boolean binary) throws SQLException {
        if (binary) {
            byte[] bytes = row.getBytes(column);
            return bytes == null ? NULL : bytes;
        }
        String text = row.getString(column);
        return text == null ? NULL : text.getBytes(StandardCharsets.UTF_8);
    }

    private static void write(byte[] value, OutputStream out) throws IOException {
        for (byte b : value) {
            switch (b) {
                case '\t' -> out.write(new byte[] {'\\', 't'});
                case '\n' -> out.write(new byte[] {'\\', 'n'});
                case '\\' -> out.write(new byte[] {'\\', '\\'});
                default -> out.write(b);
            }
        }
    }
}
