package org.orderlyferry.databases.check;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.fail;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.record.fit.Screening;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;

/** What is said of generated checks and records is what the system does: what is refused here, it refuses as well. */
class CheckRuleTest {

    private static final int CHECKS = Integer.getInteger("ferry.checks", 150);
    private static final int RECORDS = 12;

    private static final List<String> COLUMNS = List.of("n", "d", "f", "r", "t", "w", "c", "dt", "m", "b");

    private static final Map<String, String> COLUMNS_OF = Map.of(
            "H2",
            "n INT, d DECIMAL(8,2), f DOUBLE PRECISION, r REAL, t VARCHAR(20), w VARCHAR_IGNORECASE(20), c CHAR(4),"
                    + " dt DATE, m TIMESTAMP(6), b BOOLEAN",
            "SQLite",
            "n INT, d DECIMAL(8,2), f DOUBLE PRECISION, r FLOAT4, t VARCHAR(20), w VARCHAR(20) Collate NoCase, c CHAR(4),"
                    + " dt DATE, m TIMESTAMP(6), b BOOLEAN",
            "PostgreSQL",
            "n INT, d DECIMAL(8,2), f DOUBLE PRECISION, r REAL, t VARCHAR(20), w VARCHAR(20) COLLATE \"de-x-icu\","
                    + " c CHAR(4), dt DATE, m TIMESTAMP(6), b BOOLEAN",
            "MariaDB",
            "n INT, d DECIMAL(8,2), f DOUBLE, r FLOAT, t VARCHAR(20) COLLATE utf8mb4_nopad_bin,"
                    + " w VARCHAR(20) COLLATE utf8mb4_uca1400_ai_ci, c CHAR(4) COLLATE utf8mb4_general_ci, dt DATE,"
                    + " m DATETIME(6), b BOOLEAN");

    private static final List<List<String>> VALUES = List.of(
            Arrays.asList(null, "0", "1", "-1", "2", "10"),
            Arrays.asList(null, "0.00", "0.10", "0.30", "1.50", "-2.00", "10.00"),
            Arrays.asList(null, "0.1", "0.3", "1.0", "3.0", "-0.5"),
            Arrays.asList(null, "0.1", "0.3", "1.0", "3.0", "-0.5"),
            Arrays.asList(null, "a", "A", "b", "ab", "a ", "ä", "Ab", "", "x_y", "50%", "\uD835\uDCB3", "new", "a\\b"),
            Arrays.asList(
                    null, "a", "A", "b", "ab", "a ", "ä", "Ab", "", "x_y", "50%", "\uD835\uDCB3", "new", "ss", "ß"),
            Arrays.asList(null, "a", "A", "ab", "new", "ä"),
            Arrays.asList(null, "2020-01-01", "2019-12-31", "2031-04-09"),
            Arrays.asList(
                    null, "2020-01-01T00:00:00", "2020-01-01T00:00:00.5", "2019-12-31T23:59:59", "2031-04-09T12:00:00"),
            Arrays.asList(null, "true", "false"));

    private static Random seeded(String system) {
        long seed = Long.getLong("ferry.seed", System.nanoTime());
        return new Random(seed) {
            @Override
            public String toString() {
                return system + ", seed " + seed;
            }
        };
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatIsRefusedTheSystemRefusesAsWell(String system, @TempDir Path folder) throws Exception {
        Random random = seeded(system);
        String url = TestSystem.of(system).fresh(folder);
        List<String> checks = make(url, system, random);
        assertThat(checks)
                .as("of %s, those that the system takes, %s", CHECKS, random)
                .hasSizeGreaterThan(CHECKS / 2);
        int broken = 0;
        int found = 0;
        List<List<Screening.Rule>> rules = rules(url, system, checks.size());
        try (Connection connection = Databases.connect(url)) {
            connection.setAutoCommit(false);
            for (int number = 0; number < checks.size(); number++) {
                for (int i = 0; i < RECORDS; i++) {
                    List<String> record = record(random);
                    boolean refused = isRefused(connection, system, number, record);
                    boolean told = isTold(rules.get(number), record);
                    if (told && !refused) {
                        fail("%s takes %s, %s: %s", system, record, random, checks.get(number));
                    }
                    broken += refused ? 1 : 0;
                    found += told ? 1 : 0;
                }
            }
        }
        assertThat(found).as("of the %s that are refused, %s", broken, random).isGreaterThan(broken / 3);
    }

    /** That different signs of ASCII are different is MariaDB's word for each of these collations. */
    @Test
    void underLooseCollationsOnlyLettersCaseIsTheSame(@TempDir Path folder) throws Exception {
        String url = TestSystem.MARIADB.fresh(folder);
        List<String> collations = Databases.rows(
                        url,
                        "SELECT FULL_COLLATION_NAME FROM information_schema.COLLATION_CHARACTER_SET_APPLICABILITY"
                                + " WHERE CHARACTER_SET_NAME IN ('utf8mb4', 'utf8mb3')")
                .stream()
                .filter(c -> isLoose(c))
                .toList();
        assertThat(collations).contains("utf8mb4_general_ci", "utf8mb4_unicode_ci", "utf8mb4_uca1400_ai_ci");
        Databases.run(url, "CREATE TABLE a (c CHAR(1) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin)");
        Databases.run(
                url,
                IntStream.rangeClosed('!', '~')
                        .mapToObj(c -> "('" + (c == '\\' || c == '\'' ? "\\" : "") + (char) c + "')")
                        .collect(Collectors.joining(", ", "INSERT INTO a VALUES ", "")));
        for (String collation : collations) {
            String set = collation.replaceFirst("_.*", "");
            assertThat(Databases.rows(
                            url,
                            "SELECT CONCAT(x.c, y.c) FROM a x JOIN a y ON CONVERT(x.c USING " + set + ") COLLATE "
                                    + collation + " = CONVERT(y.c USING " + set + ") AND UPPER(x.c) <> UPPER(y.c)"))
                    .as(collation)
                    .isEmpty();
        }
    }

    private static boolean isLoose(String collation) {
        ColumnDefinition column = ColumnDefinition.named("c", LogicalType.varchar(9))
                .collation(collation)
                .build();
        return TextRule.of(column, "MariaDB") == TextRule.LOOSE;
    }

    private static List<List<Screening.Rule>> rules(String url, String system, int checks) {
        try (Place place = Places.open(url)) {
            return IntStream.range(0, checks)
                    .mapToObj(i -> place.define(TableName.of((system.equals("H2") ? "T" : "t") + i)))
                    .map(table -> CheckRule.of(table, table.columnNames()))
                    .toList();
        }
    }

    private static boolean isTold(List<Screening.Rule> rules, List<String> record) {
        for (Screening.Rule rule : rules) {
            try {
                rule.check(record::get);
            } catch (InvalidValueException e) {
                return true;
            }
        }
        return false;
    }

    private static List<String> record(Random random) {
        return VALUES.stream().map(of -> of.get(random.nextInt(of.size()))).collect(Collectors.toList());
    }

    private static boolean isRefused(Connection connection, String system, int table, List<String> record)
            throws SQLException {
        String marks = IntStream.range(0, record.size())
                .mapToObj(
                        i -> record.get(i) == null ? "NULL" : literal(system, i, Objects.requireNonNull(record.get(i))))
                .collect(Collectors.joining(", "));
        try (PreparedStatement insert =
                connection.prepareStatement("INSERT INTO t" + table + " VALUES (" + marks + ")")) {
            insert.executeUpdate();
            return false;
        } catch (SQLException e) {
            assertThat(e.getMessage()).matches("(?is).*(check constraint|constraint .* failed).*");
            return true;
        } finally {
            connection.rollback();
        }
    }

    private static String literal(String system, int column, String value) {
        String name = COLUMNS.get(column);
        if (List.of("n", "d", "f", "r").contains(name)) {
            return value;
        }
        if (name.equals("b")) {
            return system.equals("SQLite") ? value.equals("true") ? "1" : "0" : value;
        }
        String quoted = "'" + value.replace(name.equals("m") ? "T" : "'", name.equals("m") ? " " : "''") + "'";
        return system.equals("MariaDB") ? quoted.replace("\\", "\\\\") : quoted;
    }

    /** Makes a table with each check that the system takes. */
    private static List<String> make(String url, String system, Random random) throws SQLException {
        List<String> made = new ArrayList<>();
        try (Connection connection = Databases.connect(url);
                Statement statement = connection.createStatement()) {
            for (int i = 0; i < CHECKS; i++) {
                String check = condition(system, random, 2);
                try {
                    statement.execute("CREATE TABLE t" + made.size() + " (" + COLUMNS_OF.get(system) + ", CHECK ("
                            + check + "))");
                    made.add(check);
                } catch (SQLException e) {
                    // not one that this system has
                }
            }
        }
        return made;
    }

    private static String one(Random random, String... of) {
        return of[random.nextInt(of.length)];
    }

    private static String condition(String system, Random random, int depth) {
        if (depth > 0 && random.nextInt(3) == 0) {
            String left = condition(system, random, depth - 1);
            String right = condition(system, random, depth - 1);
            return switch (random.nextInt(4)) {
                case 0 -> "(" + left + ") AND (" + right + ")";
                case 1 -> "(" + left + ") OR (" + right + ")";
                case 2 -> "NOT (" + left + ")";
                default ->
                    "CASE WHEN " + left + " THEN " + right + " ELSE " + condition(system, random, depth - 1) + " END";
            };
        }
        return switch (random.nextInt(9)) {
            case 0, 1 -> number(random) + one(random, " = ", " <> ", " < ", " <= ", " > ", " >= ") + number(random);
            case 2 ->
                number(random) + one(random, " BETWEEN ", " NOT BETWEEN ") + one(random, "0", "-1", "0.1") + " AND "
                        + one(random, "1", "10", "0.3");
            case 3 -> text(random) + one(random, " = ", " <> ") + text(random);
            case 4 ->
                text(random)
                        + one(random, " IN ", " NOT IN ")
                        + one(random, "('a', 'new')", "('A')", "('ab', '', 'x_y')", "('a ', NULL)", "('ä', 'ss')");
            case 5 ->
                text(random)
                        + one(random, " LIKE ", " NOT LIKE ")
                        + one(
                                random,
                                "'a%'",
                                "'_'",
                                "'%'",
                                "'A_'",
                                "'%\\%'",
                                "'%!_%' ESCAPE '!'",
                                "'N%w'",
                                "'%%b%'",
                                "'ä'");
            case 6 ->
                length(system) + "(" + text(random) + ")" + one(random, " = ", " < ", " >= ")
                        + one(random, "1", "2", "0");
            case 7 -> moment(system, random);
            default ->
                one(
                        random,
                        "b",
                        "NOT b",
                        system.equals("SQLite") ? "b = 1" : "b = TRUE",
                        "b IS NULL",
                        "n IS NOT NULL",
                        "t IS NULL",
                        "m IS NOT NULL",
                        "b IS NOT TRUE",
                        "n IN (1, 2, 10)",
                        "d NOT IN (0.1, 1.5)");
        };
    }

    private static String moment(String system, Random random) {
        String date = system.equals("SQLite") ? "" : "DATE ";
        String time = system.equals("SQLite") ? "" : "TIMESTAMP ";
        String operator = one(random, " = ", " <> ", " < ", " >= ");
        return switch (random.nextInt(4)) {
            case 0 -> "dt" + operator + date + one(random, "'2020-01-01'", "'2031-04-09'");
            case 1 -> "dt" + operator + one(random, "'2020-01-01'", "'2019-12-31'");
            case 2 -> "m" + operator + time + one(random, "'2020-01-01 00:00:00'", "'2020-01-01 00:00:00.50'");
            default ->
                one(
                        random,
                        "dt = m",
                        "m > dt",
                        "m" + operator + "'2020-01-01'",
                        "dt BETWEEN '2020-01-01' AND '2031-04-09'");
        };
    }

    private static String number(Random random) {
        return one(
                random,
                "n",
                "d",
                "f",
                "r",
                "n + d",
                "n * 2",
                "d * d",
                "d - 0.1",
                "abs(n)",
                "-d",
                "coalesce(n, 0)",
                "0",
                "1",
                "0.1",
                "0.3",
                "10",
                "nullif(n, 1)",
                "f + 0.1");
    }

    private static String text(Random random) {
        return one(
                random,
                "t",
                "t",
                "w",
                "w",
                "c",
                "'a'",
                "'ab'",
                "'A'",
                "lower(t)",
                "upper(w)",
                "coalesce(t, w)",
                "nullif(t, '')");
    }

    private static String length(String system) {
        return system.equals("SQLite") ? "length" : "char_length";
    }
}
