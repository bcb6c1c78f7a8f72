package org.orderlyferry.databases.script;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Times as SQL Server's tools write their bytes, and Oracle's what a model says. */
@Tag("everywhere")
class WrittenMomentsTest {

    private static final long DAY = 24 * 60 * 60;

    @Provide
    Arbitrary<LocalDateTime> moments() {
        return Arbitraries.longs()
                .between(
                        LocalDate.of(1, 1, 1).toEpochDay() * DAY,
                        LocalDate.of(9999, 12, 31).toEpochDay() * DAY + DAY - 1)
                .flatMap(second -> Arbitraries.integers()
                        .between(0, 9_999_999)
                        .map(part -> LocalDateTime.ofEpochSecond(second, part * 100, java.time.ZoneOffset.UTC)));
    }

    /** So many bytes, the least first, each as a character. */
    private static String turned(long value, int count) {
        StringBuilder bytes = new StringBuilder();
        for (int i = 0; i < count; i++) {
            bytes.append((char) (value >> Byte.SIZE * i & 0xFF));
        }
        return bytes.toString();
    }

    @Property(tries = 500)
    void bytesOfAMomentAreThatMoment(@ForAll("moments") LocalDateTime moment, @ForAll("digits") int digits) {
        long part = 1_000_000_000L;
        for (int i = 0; i < digits; i++) {
            part /= 10;
        }
        LocalDateTime kept = moment.minusNanos(moment.getNano() % part);
        String time =
                (char) digits + turned(kept.toLocalTime().toNanoOfDay() / part, digits < 3 ? 3 : digits < 5 ? 4 : 5);
        String date = turned(ChronoUnit.DAYS.between(LocalDate.of(1, 1, 1), kept.toLocalDate()), 3);
        String iso = kept.format(DateTimeFormatter.ISO_LOCAL_DATE_TIME);
        assertThat(StoredMoment.text("datetime2", time + date)).contains(iso);
        assertThat(StoredMoment.text("date", date)).contains(kept.toLocalDate().toString());
        assertThat(StoredMoment.text("datetimeoffset", time + date + turned(120, 2))
                        .orElseThrow())
                .isEqualTo(kept.plusHours(2).format(DateTimeFormatter.ISO_LOCAL_DATE_TIME) + "+02:00");
    }

    @Provide
    Arbitrary<Integer> digits() {
        return Arbitraries.integers().between(0, 7);
    }

    @Test
    void bytesThatAreNoMomentAreSaidSo() {
        for (String type : List.of("datetime", "smalldatetime", "date", "time", "datetime2", "datetimeoffset")) {
            for (String bytes : List.of(
                    "",
                    "\u0001",
                    "\u0009\u0000\u0000\u0000\u0000",
                    "\u0007\u00ff\u00ff\u00ff\u00ff\u00ff\u00ff\u00ff\u00ff\u00ff")) {
                assertThatThrownBy(() -> StoredMoment.text(type, bytes))
                        .as(type + " of " + bytes.length())
                        .isInstanceOfAny(IllegalArgumentException.class, java.time.DateTimeException.class);
            }
        }
        assertThat(StoredMoment.text("nvarchar", "moss")).isEmpty();
    }

    private static String upper(LocalDateTime moment, String pattern) {
        return moment.format(DateTimeFormatter.ofPattern(pattern, Locale.US)).toUpperCase(Locale.ROOT);
    }

    @Property(tries = 300)
    void whatAModelWritesItReads(@ForAll("moments") LocalDateTime moment) {
        String iso = moment.format(DateTimeFormatter.ISO_LOCAL_DATE_TIME);
        LocalDateTime second = moment.truncatedTo(ChronoUnit.SECONDS);
        String[][] pairs = {
            {"YYYY-MM-DD HH24:MI:SS.FF7", "uuuu-MM-dd HH:mm:ss.SSSSSSS"},
            {"YYYY-MM-DD\"T\"HH24:MI:SSXFF", "uuuu-MM-dd'T'HH:mm:ss.SSSSSSS"},
            {"DD-MON-YYYY HH:MI:SS.FF AM", "dd-MMM-uuuu hh:mm:ss.SSSSSSS a"},
            {"DD MONTH YYYY HH12.MI.SSXFF PM", "dd MMMM uuuu hh.mm.ss.SSSSSSS a"}
        };
        for (String[] pair : pairs) {
            assertThat(new DatetimeModel(pair[0]).value(upper(moment, pair[1])))
                    .as(pair[0])
                    .isEqualTo(iso);
        }
        assertThat(new DatetimeModel("YYYYMMDDHH24MISS").value(upper(second, "uuuuMMddHHmmss")))
                .isEqualTo(second.format(DateTimeFormatter.ISO_LOCAL_DATE_TIME));
        assertThat(new DatetimeModel("yyyy/mm/dd hh24:mi:ss tzh:tzm")
                        .value(upper(second, "uuuu/MM/dd HH:mm:ss") + " -03:30"))
                .isEqualTo(second.format(DateTimeFormatter.ISO_LOCAL_DATE_TIME) + "-03:30");
    }

    @Test
    void yearsOfTwoDigitsAreTheNearest() {
        assertThat(new DatetimeModel("DD-MON-RR").value("09-APR-31")).startsWith("2031-04-09");
        assertThat(new DatetimeModel("DD-MON-RR").value("09-apr-51")).startsWith("1951-04-09");
        assertThat(new DatetimeModel("YY").value("51")).startsWith("2051");
        for (String[] wrong : new String[][] {
            {"YYYY-MM-DD", "moss"},
            {"YYYY-MM-DD", "2031-13-01"},
            {"YYYY-MM-DD", "2031-04-09 more"},
            {"Q", "1"},
            {"MON", "XYZ"}
        }) {
            assertThatThrownBy(() -> new DatetimeModel(wrong[0]).value(wrong[1]))
                    .isInstanceOf(IllegalArgumentException.class);
        }
    }
}
