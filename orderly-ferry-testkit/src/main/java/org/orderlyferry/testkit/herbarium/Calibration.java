package org.orderlyferry.testkit.herbarium;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.util.UUID;
import org.h2.value.ValueJson;

/** The table {@code calibration}: a value at each end of each type, and those that are lost most often in between. */
final class Calibration {

    private Calibration() {}

    static void insert(Connection connection) throws SQLException {
        try (Insert insert = new Insert(
                connection,
                "calibration",
                "\"name\", \"small\", \"whole\", \"large\", \"exact\", \"ratio\", \"measure\", \"flag\", \"day\","
                        + " \"hour\", \"moment\", \"instant\", \"padded\", \"story\", \"payload\", \"tag\","
                        + " \"document\"")) {
            insert.row(
                    "smallest",
                    Short.MIN_VALUE,
                    Integer.MIN_VALUE,
                    Long.MIN_VALUE,
                    new BigDecimal("-9999999999999999999999999999.9999999999"),
                    -Float.MAX_VALUE,
                    -Double.MAX_VALUE,
                    false,
                    LocalDate.of(-4712, 1, 1),
                    LocalTime.MIDNIGHT,
                    LocalDateTime.of(1, 1, 1, 0, 0),
                    OffsetDateTime.parse("1000-01-01T00:00:00Z"),
                    "",
                    "",
                    new byte[0],
                    new UUID(0, 0),
                    json("null"));
            insert.row(
                    "largest",
                    Short.MAX_VALUE,
                    Integer.MAX_VALUE,
                    Long.MAX_VALUE,
                    new BigDecimal("9999999999999999999999999999.9999999999"),
                    Float.MAX_VALUE,
                    Double.MAX_VALUE,
                    true,
                    LocalDate.of(12031, 12, 31),
                    LocalTime.of(23, 59, 59, 999_999_000),
                    LocalDateTime.of(12031, 12, 31, 23, 59, 59, 999_999_000),
                    OffsetDateTime.parse("9999-12-31T23:59:59.999999Z"),
                    "12345678",
                    "🌿".repeat(20_000),
                    everyByte(),
                    new UUID(-1, -1),
                    json("{\"b\":[1,2.50,1e3],\"a\":\"\\u00fc \\\" \\\\ \\n\",\"c\":{\"z\":null,\"y\":true}}"));
            insert.row(
                    "zeros behind",
                    (short) 0,
                    0,
                    0L,
                    new BigDecimal("12.5000000000"),
                    -0.0f,
                    -0.0,
                    null,
                    LocalDate.of(1899, 12, 31),
                    LocalTime.of(7, 30, 0, 250_000_000),
                    LocalDateTime.of(1900, 2, 28, 7, 30, 0, 100_000_000),
                    OffsetDateTime.parse("2031-04-09T07:30:00.120000+05:30"),
                    "a  b",
                    " blanks around ",
                    new byte[] {0},
                    UUID.fromString("00417000-0000-4000-8000-000000000417"),
                    json("12345678901234567890"));
            insert.row(
                    "fine steps",
                    (short) -1,
                    -1,
                    9_007_199_254_740_993L,
                    new BigDecimal("123456789012345678901234567.8901234560"),
                    0.1f,
                    0.1,
                    true,
                    LocalDate.of(2028, 2, 29),
                    LocalTime.of(0, 0, 0, 1_000),
                    LocalDateTime.of(2031, 3, 30, 2, 30, 0, 1_000),
                    OffsetDateTime.parse("2031-10-26T02:30:00.000001-12:00"),
                    "  lead",
                    "one\r\ntwo\n\nfour",
                    new byte[] {'"', ',', '\r', '\n', (byte) 0xFF},
                    new UUID(417, 417),
                    json("[]"));
            insert.row(
                    "tiny",
                    (short) 1,
                    1,
                    1L,
                    new BigDecimal("0.0000000001"),
                    Float.MIN_VALUE,
                    1e-310,
                    null,
                    LocalDate.of(0, 2, 29),
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    json("\"\""));
            insert.row(
                    "least",
                    null,
                    null,
                    null,
                    null,
                    16777216f,
                    Double.MIN_VALUE,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null);
            insert.row(
                    "long fraction",
                    null,
                    null,
                    null,
                    null,
                    3.4028233e38f,
                    2.2250738585072014E-308,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null);
            insert.row(
                    "two to the 53rd",
                    null,
                    null,
                    null,
                    null,
                    null,
                    9007199254740993.0,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null);
            insert.row(
                    "nothing", null, null, null, null, null, null, null, null, null, null, null, null, null, null, null,
                    null);
        }
    }

    private static byte[] everyByte() {
        byte[] bytes = new byte[256];
        for (int i = 0; i < bytes.length; i++) {
            bytes[i] = (byte) i;
        }
        return bytes;
    }

    private static ValueJson json(String text) {
        return ValueJson.fromJson(text.getBytes(StandardCharsets.UTF_8));
    }
}
