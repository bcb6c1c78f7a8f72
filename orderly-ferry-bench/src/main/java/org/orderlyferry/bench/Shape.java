package org.orderlyferry.bench;

import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * A table of one shape, as PostgreSQL makes it.
 *
 * @param name the table
 * @param select gives its records, with {@code i} for a record's number; the first column is the key
 * @param rows how many
 */
record Shape(String name, String select, long rows) {

    private static final int GROUPS = 10;

    /** All of them, with this part of their usual sizes. */
    static List<Shape> all(double part) {
        return List.of(
                new Shape(
                        "usual",
                        "i AS id, 'QM-' || lpad(i::text, 8, '0') AS code, 'drawer ' || i % 977 || ' of the herbarium' AS note,"
                                + " (i % 100000)::int AS amount, ((i % 1000000) / 7.0)::numeric(12,2) AS price, i / 3.0::float8"
                                + " AS ratio, date '1990-01-01' + (i % 12000)::int AS day, (timestamp '2001-02-03 04:05:06' + i *"
                                + " interval '1.000417 second')::timestamp(6) AS moment, i % 3 = 0 AS flag, CASE WHEN i % 5 = 0"
                                + " THEN NULL WHEN i % 7 = 0 THEN 'it said \"moss\", and, later, \"fern\" ' || i ELSE 'plain remark"
                                + " number ' || i END AS remark",
                        size(1_000_000, part)),
                new Shape(
                        "narrow",
                        "i AS id, (i * 7919 % 1000003)::int AS n, (i * 0.37 + sin(i))::float8 AS v",
                        size(4_000_000, part)),
                new Shape("wide", "i::int AS id, " + groups(), size(250_000, part)),
                new Shape(
                        "prose",
                        "i::int AS id, rpad('She wrote \"' || md5(i::text) || '\" and then,' || chr(10) || 'again, \"'"
                                + " || md5((i + 1)::text) || '\" ', 250, 'moss and fern ') AS label, rpad('Kräuter größer '"
                                + " || md5((i * 3)::text), 30 + (i * 7919 % 400)::int, ' ñandú żółw straße') AS text",
                        size(300_000, part)),
                new Shape(
                        "mixed",
                        "i AS id, CASE WHEN i % 3 = 0 THEN NULL ELSE substr(md5(i::text), 1, 3) END AS code, ('{\"bed\": ' || i %"
                                + " 97 || ', \"of\": [\"moss\", null, ' || i || ']}')::text AS doc, decode(md5(i::text), 'hex') AS"
                                + " mark, (i % 7)::smallint AS level, md5((i * 5)::text)::uuid AS token, (i / 7.0)::numeric(20,6)"
                                + " AS weight, rpad('text', (i * 31 % 300)::int, 'of \"any\" length ') AS any",
                        size(400_000, part)),
                new Shape(
                        "scattered",
                        "(md5(i::text))::uuid AS id, i::int AS n, timestamp '2020-01-01' + i * interval '17 second' AS moment,"
                                + " 'drawer ' || i % 977 || ', sheet ' || md5((i * 3)::text) || md5((i * 5)::text) AS note",
                        size(2_500_000, part)));
    }

    private static long size(long rows, double part) {
        return Math.max(1_000, (long) (rows * part));
    }

    /** Ten times a number, a text, a decimal, a date, a truth value and a time. */
    private static String groups() {
        return IntStream.rangeClosed(1, GROUPS)
                .mapToObj(k -> String.format(
                        Locale.ROOT,
                        "(i * %1$d %% 100003)::int AS n%1$d, CASE WHEN (i + %1$d) %% 3 = 0 THEN NULL ELSE 'label ' || i * %1$d %%"
                                + " 99991 END AS t%1$d, ((i * %1$d %% 10000019) / 100.0)::numeric(12,2) AS d%1$d, date"
                                + " '1990-01-01' + (i * %1$d %% 12000)::int AS a%1$d, CASE WHEN (i + %1$d) %% 5 = 0 THEN NULL ELSE"
                                + " (i + %1$d) %% 2 = 0 END AS f%1$d, (timestamp '2001-02-03 04:05:06' + (i * %1$d %% 500000000) *"
                                + " interval '1 second')::timestamp(6) AS m%1$d",
                        k))
                .collect(Collectors.joining(", "));
    }

    /** Statements that make and fill it. */
    List<String> statements() {
        return List.of(
                "CREATE TABLE " + name + " AS SELECT " + select + " FROM generate_series(1::bigint, " + rows + ") i",
                "ALTER TABLE " + name + " ADD PRIMARY KEY (id)",
                "ANALYZE " + name);
    }
}
