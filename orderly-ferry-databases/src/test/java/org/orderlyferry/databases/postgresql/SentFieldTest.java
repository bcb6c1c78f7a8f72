package org.orderlyferry.databases.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.JavaValues;

/** What is sent in binary form is what is read from it: the two are written apart, each after the server's documentation. */
class SentFieldTest {

    private static final int BOOL = 16;
    private static final int INT8 = 20;
    private static final int INT2 = 21;
    private static final int INT4 = 23;
    private static final int FLOAT4 = 700;
    private static final int FLOAT8 = 701;
    private static final int DATE = 1082;
    private static final int TIME = 1083;
    private static final int TIMESTAMP = 1114;
    private static final int TIMESTAMPTZ = 1184;
    private static final int NUMERIC = 1700;
    private static final int UUID = 2950;

    private static SentField field(LogicalType type, int identifier) {
        return SentField.of(ColumnDefinition.named("c", type).build(), identifier, false)
                .orElseThrow();
    }

    private static byte[] sent(LogicalType type, int identifier, String text) {
        byte[] bytes = ("<" + text + ">").getBytes(StandardCharsets.UTF_8);
        byte[] to = new byte[bytes.length + SentField.MORE];
        int end = field(type, identifier).put(bytes, 1, bytes.length - 1, to, 1);
        return end == SentField.ODD ? null : Arrays.copyOfRange(to, 1, end);
    }

    private static String back(LogicalType type, int identifier, String own, String text) throws Exception {
        byte[] sent = sent(type, identifier, text);
        assertThat(sent).as(text).isNotNull();
        RecordBatch batch = new RecordBatch();
        batch.start(1, "t", "test", false);
        ColumnDefinition column =
                ColumnDefinition.named("c", type).sourceType(own).build();
        BinaryField.of(column, true).read(sent, 0, sent.length, batch);
        batch.endRow(1);
        return batch.text(0, 0);
    }

    private static void isReadAsItIsSent(LogicalType type, int identifier, String own, String text) throws Exception {
        assertThat(back(type, identifier, own, text)).isEqualTo(text);
    }

    @Property
    void wholeNumbers(@ForAll long value, @ForAll int smaller, @ForAll short smallest) throws Exception {
        if (Long.toString(Math.abs(value)).length() <= 18) {
            isReadAsItIsSent(LogicalType.BIGINT, INT8, "bigint", Long.toString(value));
        }
        isReadAsItIsSent(LogicalType.BIGINT, INT8, "bigint", Integer.toString(smaller));
        isReadAsItIsSent(LogicalType.INTEGER, INT4, "integer", Integer.toString(smaller));
        isReadAsItIsSent(LogicalType.SMALLINT, INT2, "smallint", Short.toString(smallest));
    }

    @Property(tries = 20_000)
    void floatingPointNumbersOfAnyBits(@ForAll long bits, @ForAll int fewer) throws Exception {
        isReadAsItIsSent(
                LogicalType.DOUBLE, FLOAT8, "double precision", JavaValues.text(Double.longBitsToDouble(bits)));
        isReadAsItIsSent(LogicalType.REAL, FLOAT4, "real", JavaValues.text(Float.intBitsToFloat(fewer)));
    }

    @Property(tries = 20_000)
    void floatingPointNumbersOfFewDigits(
            @ForAll @LongRange(min = -9_999_999_999_999_999L, max = 9_999_999_999_999_999L) long digits,
            @ForAll @IntRange(min = 1, max = 18) int scale)
            throws Exception {
        String text = BigDecimal.valueOf(digits, scale).toPlainString();
        assertThat(back(LogicalType.DOUBLE, FLOAT8, "double precision", text))
                .isEqualTo(JavaValues.text(Double.parseDouble(text)));
    }

    @Property
    void decimals(@ForAll BigInteger digits, @ForAll @IntRange(min = 0, max = 40) int scale) throws Exception {
        String text = new BigDecimal(digits, scale).toPlainString();
        isReadAsItIsSent(LogicalType.of(TypeName.DECIMAL), NUMERIC, "numeric", text);
    }

    @Property
    void datesAndTimes(
            @ForAll @IntRange(min = -719_162, max = 2_932_896) int day,
            @ForAll @LongRange(min = 0, max = 86_399_999_999L) long micros)
            throws Exception {
        String date = LocalDate.ofEpochDay(day).toString();
        String time = JavaValues.text(LocalTime.MIDNIGHT.plus(micros, ChronoUnit.MICROS));
        isReadAsItIsSent(LogicalType.of(TypeName.DATE), DATE, "date", date);
        isReadAsItIsSent(LogicalType.of(TypeName.TIME, 6), TIME, "time without time zone", time);
        isReadAsItIsSent(
                LogicalType.of(TypeName.TIMESTAMP, 6), TIMESTAMP, "timestamp without time zone", date + "T" + time);
        isReadAsItIsSent(
                LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 6),
                TIMESTAMPTZ,
                "timestamp with time zone",
                date + "T" + time + "Z");
    }

    @Property
    void uuids(@ForAll long high, @ForAll long low) throws Exception {
        isReadAsItIsSent(LogicalType.UUID, UUID, "uuid", new java.util.UUID(high, low).toString());
    }

    @Test
    void wordsAndEnds() throws Exception {
        for (String text : new String[] {"true", "false"}) {
            isReadAsItIsSent(LogicalType.of(TypeName.BOOLEAN), BOOL, "boolean", text);
        }
        for (String text : new String[] {"NaN", "INF", "-INF", "0.0", "-0.0", "4.9E-324", "1.7976931348623157E308"}) {
            isReadAsItIsSent(LogicalType.DOUBLE, FLOAT8, "double precision", text);
        }
        for (String text : new String[] {"0", "0.00", "0.0001", "-10000", "9999.9999", "10000.00010"}) {
            isReadAsItIsSent(LogicalType.of(TypeName.DECIMAL), NUMERIC, "numeric", text);
        }
    }

    @ParameterizedTest
    @CsvSource(
            emptyValue = "",
            textBlock =
                    """
            BIGINT, 20, 9223372036854775808
            BIGINT, 20, +5
            BIGINT, 20, 5.0
            BIGINT, 20, ''
            BIGINT, 20, -
            INTEGER, 23, 2147483648
            SMALLINT, 21, -32769
            DOUBLE, 701, 1E400
            DOUBLE, 701, 1E-400
            DOUBLE, 701, 0x1p3
            DOUBLE, 701, 1.5d
            DOUBLE, 701, 1.
            DOUBLE, 701, .5
            DOUBLE, 701, Infinity
            DOUBLE, 701, ''
            DOUBLE, 701, -NaN
            REAL, 700, 1E39
            REAL, 700, 1e5
            DECIMAL, 1700, 1E5
            DECIMAL, 1700, 1.
            DECIMAL, 1700, .5
            DECIMAL, 1700, -
            DECIMAL, 1700, NaN
            DATE, 1082, -0044-03-15
            DATE, 1082, 0000-01-01
            DATE, 1082, 12031-12-31
            DATE, 1082, 2031-02-29
            DATE, 1082, 1900-02-29
            DATE, 1082, 2031-13-01
            DATE, 1082, 2031-4-09
            TIME, 1083, 24:00:00
            TIME, 1083, 23:59:60
            TIME, 1083, 07:30
            TIME, 1083, 07:30:00.
            TIME, 1083, 07:30:00.1234567
            TIMESTAMP, 1114, 2031-04-09
            TIMESTAMP, 1114, 2031-04-09 07:30:00
            TIMESTAMP, 1114, 2031-04-09T07:30:00Z
            TIMESTAMP_WITH_TIME_ZONE, 1184, 2031-04-09T07:30:00
            TIMESTAMP_WITH_TIME_ZONE, 1184, 2031-04-09T07:30:00+01
            BOOLEAN, 16, 1
            BOOLEAN, 16, TRUE
            BOOLEAN, 16, trues
            UUID, 2950, 00000000000000000000000000000001
            UUID, 2950, 0000000g-0000-0000-0000-000000000001
            """)
    void whatIsOddGoesAsText(TypeName type, int identifier, String text) {
        assertThat(sent(LogicalType.of(type), identifier, text)).isNull();
    }

    @Test
    void aTypeThatIsNotItsOwnIsNotSent() {
        ColumnDefinition text = ColumnDefinition.named("c", LogicalType.CLOB).build();
        assertThat(SentField.of(text, INT4, false)).isEmpty();
        assertThat(SentField.of(text, 19, false)).as("a name, which is cut off").isEmpty();
        assertThat(SentField.of(text, 142, false)).as("XML").isEmpty();
        assertThat(SentField.of(text, 90_000, true)).as("an enumeration").isPresent();
        ColumnDefinition number =
                ColumnDefinition.named("c", LogicalType.INTEGER).build();
        assertThat(SentField.of(number, 90_000, true)).isEmpty();
        assertThat(SentField.of(number, FLOAT8, false)).isEmpty();
    }
}
