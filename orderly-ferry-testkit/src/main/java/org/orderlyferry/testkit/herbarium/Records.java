package org.orderlyferry.testkit.herbarium;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.UUID;
import org.h2.value.ValueJson;

/** The records of all tables, from a fixed seed. */
final class Records {

    private static final long SEED = 417;
    private static final int COLLECTORS = 40;
    private static final int LOCALITIES = 120;
    private static final int FAMILIES = 6;
    private static final int GENERA = 30;
    private static final int SPECIES = 264;
    private static final int LOANS = 25;
    private static final LocalDate TODAY = LocalDate.of(2031, 4, 9);

    private final Connection connection;
    private final int specimens;
    private final long readings;
    private final Random random = new Random(SEED);
    private final Names names = new Names(random);

    Records(Connection connection, int specimens, long readings) {
        this.connection = connection;
        this.specimens = specimens;
        this.readings = readings;
    }

    void insert() throws SQLException {
        localities();
        collectors();
        taxa();
        specimens();
        determinations();
        loans();
        images();
        readings();
        Calibration.insert(connection);
        labels();
        partners();
        try (Statement statement = connection.createStatement()) {
            statement.execute("ALTER TABLE \"collector\" ALTER COLUMN \"id\" RESTART WITH " + (COLLECTORS + 1));
            statement.execute("ALTER TABLE \"specimen\" ALTER COLUMN \"id\" RESTART WITH " + (specimens + 1));
        }
    }

    private boolean oneIn(int many) {
        return random.nextInt(many) == 0;
    }

    private String hostile() {
        return HostileTexts.ALL.get(random.nextInt(HostileTexts.ALL.size()));
    }

    private void localities() throws SQLException {
        try (Insert insert = new Insert(
                connection,
                "locality",
                "\"id\", \"name\", \"latitude\", \"longitude\", \"altitude\", \"country_code\", \"surveyed_by\"")) {
            for (int id = 1; id <= LOCALITIES; id++) {
                insert.row(
                        id,
                        names.place(),
                        oneIn(20) ? null : BigDecimal.valueOf(random.nextInt(180_000_000) - 90_000_000L, 6),
                        oneIn(20) ? null : BigDecimal.valueOf(random.nextInt(360_000_000) - 180_000_000L, 6),
                        oneIn(5) ? null : (short) (random.nextInt(2400) - 12),
                        oneIn(9) ? "ZZ" : "QM",
                        oneIn(3) ? null : 1L + random.nextInt(COLLECTORS));
            }
        }
    }

    private void collectors() throws SQLException {
        try (Insert insert = new Insert(
                connection,
                "collector",
                "\"id\", \"name\", \"field_code\", \"home_locality\", \"active\", \"joined\"")) {
            for (int id = 1; id <= COLLECTORS; id++) {
                insert.row(
                        (long) id,
                        names.person(),
                        String.format(Locale.ROOT, "%05d", id * 417 % 99_991),
                        oneIn(4) ? null : 1 + random.nextInt(LOCALITIES),
                        !oneIn(6),
                        TODAY.minusDays(random.nextInt(20_000)));
            }
        }
    }

    private void taxa() throws SQLException {
        try (Insert insert = new Insert(connection, "taxon", "\"id\", \"parent\", \"level\", \"name\", \"author\"")) {
            for (int id = 1; id <= FAMILIES + GENERA + SPECIES; id++) {
                if (id <= FAMILIES) {
                    insert.row(id, null, "family", names.family() + " " + id, null);
                } else if (id <= FAMILIES + GENERA) {
                    insert.row(id, 1 + random.nextInt(FAMILIES), "genus", names.genus() + " " + id, names.person());
                } else {
                    insert.row(
                            id,
                            FAMILIES + 1 + random.nextInt(GENERA),
                            "species",
                            names.genus() + " " + names.species() + " " + id,
                            oneIn(4) ? null : names.person());
                }
            }
        }
    }

    private void specimens() throws SQLException {
        try (Insert insert = new Insert(
                connection,
                "specimen",
                "\"id\", \"barcode\", \"accession_code\", \"taxon\", \"collector\", \"locality\", \"gathered\","
                        + " \"catalogued\", \"verified\", \"sheet_mass\", \"insured_value\", \"guid\", \"attributes\","
                        + " \"remarks\"")) {
            for (int id = 1; id <= specimens; id++) {
                insert.row(
                        (long) id,
                        String.format(Locale.ROOT, "QM%07d", id),
                        String.format(Locale.ROOT, "%05d", id),
                        1 + random.nextInt(FAMILIES + GENERA + SPECIES),
                        oneIn(10) ? null : 1L + random.nextInt(COLLECTORS),
                        oneIn(10) ? null : 1 + random.nextInt(LOCALITIES),
                        oneIn(12) ? null : TODAY.minusDays(random.nextInt(90_000)),
                        moment(),
                        oneIn(3) ? null : moment().atOffset(ZoneOffset.ofHours(random.nextInt(25) - 12)),
                        oneIn(8) ? null : random.nextInt(40_000) / 1000.0,
                        BigDecimal.valueOf(random.nextInt(1_000_000), 2),
                        new UUID(random.nextLong(), random.nextLong()),
                        oneIn(3) ? null : json(),
                        remark());
            }
        }
    }

    private LocalDateTime moment() {
        return TODAY.atStartOfDay()
                .minusSeconds(random.nextInt(400_000_000))
                .withNano(random.nextInt(1_000_000) * 1_000);
    }

    private ValueJson json() {
        String text = "{\"sheets\":" + (1 + random.nextInt(3)) + ",\"colour\":\"" + (oneIn(2) ? "grün" : "red")
                + "\",\"dry\":" + random.nextBoolean() + "}";
        return ValueJson.fromJson(text.getBytes(StandardCharsets.UTF_8));
    }

    private String remark() {
        return switch (random.nextInt(5)) {
            case 0 -> null;
            case 1 -> hostile();
            case 2 -> "near " + names.place() + ", " + hostile();
            default -> "on wet ground by " + names.place();
        };
    }

    private void determinations() throws SQLException {
        try (Insert insert = new Insert(
                connection,
                "determination",
                "\"specimen\", \"number\", \"taxon\", \"determiner\", \"determined\", \"confidence\"")) {
            for (int specimen = 1; specimen <= specimens; specimen++) {
                int count = random.nextInt(3);
                for (short number = 1; number <= count; number++) {
                    insert.row(
                            (long) specimen,
                            number,
                            1 + random.nextInt(FAMILIES + GENERA + SPECIES),
                            oneIn(5) ? null : 1L + random.nextInt(COLLECTORS),
                            TODAY.minusDays(random.nextInt(30_000)),
                            oneIn(5) ? null : random.nextFloat());
                }
            }
        }
    }

    private void loans() throws SQLException {
        try (Insert loan = new Insert(connection, "loan", "\"id\", \"borrower\", \"sent\", \"due\", \"note\"");
                Insert item = new Insert(connection, "loan_item", "\"loan\", \"specimen\", \"returned\"")) {
            for (int id = 1; id <= LOANS; id++) {
                LocalDate sent = TODAY.minusDays(random.nextInt(3_000));
                String note = oneIn(4) ? null : (hostile() + "\n").repeat(1 + random.nextInt(60));
                loan.row(id, "Herbarium of " + names.place(), sent, sent.plusDays(random.nextInt(400)), note);
                long specimen = random.nextInt(10);
                for (int items = random.nextInt(8); items > 0 && specimen < specimens; items--) {
                    specimen += 1 + random.nextInt(Math.max(1, specimens / 10));
                    if (specimen <= specimens) {
                        item.row(id, specimen, random.nextBoolean());
                    }
                }
            }
        }
    }

    private void images() throws SQLException {
        try (Insert insert =
                new Insert(connection, "sheet_image", "\"specimen\", \"media_type\", \"checksum\", \"content\"")) {
            for (int specimen = 1; specimen <= specimens; specimen += 20) {
                byte[] content = new byte[random.nextInt(4_000)];
                random.nextBytes(content);
                insert.row((long) specimen, "image/x-sheet", sha256(content), content);
            }
        }
    }

    private static byte[] sha256(byte[] content) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(content);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has SHA-256", e);
        }
    }

    private void readings() throws SQLException {
        LocalDateTime first = TODAY.minusYears(9).atStartOfDay();
        try (Insert insert = new Insert(
                connection,
                "chamber_reading",
                "\"id\", \"chamber\", \"taken\", \"temperature\", \"humidity\", \"alarm\"")) {
            for (long id = 1; id <= readings; id++) {
                insert.row(
                        id,
                        (short) (1 + id % 12),
                        first.plusSeconds(id * 5).plusNanos(random.nextInt(1000) * 1_000_000L),
                        BigDecimal.valueOf(1_600 + random.nextInt(500), 2),
                        oneIn(50) ? null : random.nextInt(100_000) / 1000.0,
                        oneIn(400));
            }
        }
    }

    private void labels() throws SQLException {
        List<String> texts = HostileTexts.ALL;
        try (Insert insert = new Insert(connection, "label_draft", "\"line\", \"code\", \"text\"")) {
            for (int i = 0; i < texts.size(); i++) {
                insert.row(oneIn(6) ? null : i, String.format(Locale.ROOT, "%05d", i), texts.get(i));
            }
            for (int i = 0; i < 3; i++) {
                // without a key nothing forbids the same row again, nor one of nothing
                insert.row(417, "00417", "the same row, three times");
                insert.row(null, null, null);
            }
            insert.row(1, "", null);
            insert.row(1, null, "");
        }
    }

    private void partners() throws SQLException {
        try (Insert insert = new Insert(
                connection, "Exchange Partner", "\"Partner No\", \"select\", \"order\", \"Tür \"\"A\"\"\"")) {
            for (int number = 1; number <= 12; number++) {
                insert.row(number * 100, "Garden of " + names.place() + " " + number, (short) number, hostileShort());
            }
        }
    }

    private String hostileShort() {
        String text = hostile();
        return text.codePointCount(0, text.length()) <= 20 ? text : null;
    }
}
