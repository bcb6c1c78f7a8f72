package org.orderlyferry.databases.h2;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.Map;

/**
 * A database's file as it was closed. Where its end is missing, H2 goes back in silence to what it held at some moment before:
 * to tables without records, as often as not. Its head says where the newest part begins, and that one how long it is.
 */
final class ClosedFile {

    private static final int HEAD = 1024;

    private ClosedFile() {}

    /**
     * Looks whether the newest part is there. A file that wasn't closed says nothing of it.
     *
     * @throws SQLException if it isn't
     */
    static void mustBeWhole(Path path) throws SQLException {
        if (!Files.isRegularFile(path)) {
            return;
        }
        try (RandomAccessFile file = new RandomAccessFile(path.toFile(), "r")) {
            Map<String, String> head = fields(file, 0);
            if (!"1".equals(head.get("clean"))) {
                return;
            }
            long size = Long.parseLong(head.getOrDefault("blockSize", "1000"), 16);
            long at = Math.multiplyExact(Long.parseLong(head.getOrDefault("block", "0"), 16), size);
            // a part says how many blocks it has
            long end = at < file.length()
                    ? at + Math.multiplyExact(Long.parseLong(fields(file, at).getOrDefault("len", "0"), 16), size)
                    : at + size;
            if (end > file.length()) {
                throw new SQLException("the file is cut off: it was closed with " + end + " bytes at least, and has "
                        + file.length() + "; H2 would show what it held at some moment before");
            }
        } catch (IOException | NumberFormatException | ArithmeticException e) {
            // what is damaged otherwise, or in use, H2 tells itself
        }
    }

    private static Map<String, String> fields(RandomAccessFile file, long at) throws IOException {
        byte[] bytes = new byte[(int) Math.min(HEAD, Math.max(0, file.length() - at))];
        file.seek(at);
        file.readFully(bytes);
        Map<String, String> fields = new HashMap<>();
        String line = new String(bytes, StandardCharsets.ISO_8859_1).split("\n", 2)[0];
        for (String field : line.split(",", -1)) {
            int colon = field.indexOf(':');
            if (colon > 0) {
                fields.put(field.substring(0, colon), field.substring(colon + 1));
            }
        }
        return fields;
    }
}
