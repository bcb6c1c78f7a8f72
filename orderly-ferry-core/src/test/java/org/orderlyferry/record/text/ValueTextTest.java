package org.orderlyferry.record.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CoderResult;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.Tuple;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;

class ValueTextTest {

    private static boolean isProper(LogicalType type, String text) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        return ValueText.of(type).isProper(bytes, 0, bytes.length);
    }

    private static String proper(LogicalType type, String text) throws InvalidValueException {
        return isProper(type, text) ? text : ValueText.of(type).toProper(text);
    }

    @Property
    void everyLongHasOneProperText(@ForAll long value) {
        String text = Long.toString(value);
        RecordBatch batch = new RecordBatch();
        batch.start(1, "t", "test", false);
        batch.add(value);
        batch.endRow(1);
        assertThat(batch.text(0, 0)).isEqualTo(text);
        assertThat(isProper(LogicalType.BIGINT, "0" + text)).isFalse();
        assertThat(isProper(LogicalType.INTEGER, text)).isEqualTo(value == (int) value);
    }

    @Test
    void theEndsOfEachIntegerTypeFitAndTheNextOnesDoNot() throws InvalidValueException {
        assertThat(proper(LogicalType.BIGINT, "-9223372036854775808")).isEqualTo("-9223372036854775808");
        assertThat(proper(LogicalType.SMALLINT, "-32768")).isEqualTo("-32768");
        assertThat(isProper(LogicalType.SMALLINT, "-32769")).isFalse();
        assertThat(isProper(LogicalType.INTEGER, "2147483648")).isFalse();
    }

    @Property(tries = 20_000)
    void everyDoubleReadsBackFromItsShortestText(@ForAll long bits) throws InvalidValueException {
        double value = Double.longBitsToDouble(bits);
        String text = JavaValues.text(value);
        double back = JavaValues.doubleOf(text);
        assertThat(Double.doubleToLongBits(back)).isEqualTo(Double.doubleToLongBits(value));
        assertThat(isProper(LogicalType.DOUBLE, text)).as(text).isTrue();
        assertThat(proper(LogicalType.DOUBLE, Double.toString(value).replace("Infinity", "INF")))
                .isEqualTo(text);
    }

    @Property(tries = 5_000)
    void decimalTextOfFewDigitsIsProperExactlyWhenItIsShortest(
            @ForAll @IntRange(min = -99_999_999, max = 99_999_999) int digits,
            @ForAll @IntRange(min = 0, max = 9) int scale) {
        String text = BigDecimal.valueOf(digits, scale).toPlainString();
        assertThat(isProper(LogicalType.DOUBLE, text))
                .as(text)
                .isEqualTo(JavaValues.text(Double.parseDouble(text)).equals(text));
        assertThat(isProper(LogicalType.REAL, text))
                .as(text)
                .isEqualTo(JavaValues.text(Float.parseFloat(text)).equals(text));
    }

    @Property
    void decimalsAreWrittenWithTheDeclaredScale(@ForAll BigDecimal value, @ForAll @IntRange(min = 0, max = 8) int scale)
            throws InvalidValueException {
        BigDecimal scaled = value.setScale(scale, RoundingMode.DOWN);
        LogicalType type = LogicalType.decimal(400, scale);
        assertThat(proper(type, scaled.stripTrailingZeros().toPlainString())).isEqualTo(scaled.toPlainString());
        assertThat(isProper(type, scaled.toPlainString())).isTrue();
    }

    @Property
    void timestampsAreCheckedAsJavaReadsThem(
            @ForAll LocalDateTime value,
            @ForAll @IntRange(min = 1, max = 31) int day,
            @ForAll @IntRange(min = 1, max = 12) int month) {
        LogicalType type = LogicalType.of(TypeName.TIMESTAMP, 9);
        assertThat(isProper(type, JavaValues.text(value))).isTrue();
        String date = String.format("%04d-%02d-%02d", value.getYear(), month, day);
        boolean exists = true;
        try {
            java.time.LocalDate.parse(date);
        } catch (java.time.DateTimeException e) {
            exists = false;
        }
        assertThat(isProper(LogicalType.DATE, date)).as(date).isEqualTo(exists);
    }

    @Property(tries = 5_000)
    void wholeNumbersAreWrittenAsJavaDoes(@ForAll long number, @ForAll @IntRange(min = 0, max = 63) int shift) {
        for (long n : new long[] {number, number >> shift, number >> shift | 1}) {
            byte[] text = new byte[23];
            int end = Digits.write(n, text, 3);
            assertThat(new String(text, 3, end - 3, StandardCharsets.US_ASCII)).isEqualTo(Long.toString(n));
            assertThat(Digits.read(text, 3, end)).isEqualTo(n);
        }
    }

    @Test
    void wholeNumbersOfEachLengthAreWrittenAsJavaDoes() {
        byte[] text = new byte[20];
        for (long power = 1; power > 0 && power <= 1_000_000_000_000_000_000L; power *= 10) {
            for (long n : new long[] {
                0, power - 1, power, power + 1, -power, 1 - power, power * 7 / 2, Long.MAX_VALUE, Long.MIN_VALUE
            }) {
                assertThat(new String(text, 0, Digits.write(n, text, 0), StandardCharsets.US_ASCII))
                        .isEqualTo(Long.toString(n));
            }
        }
    }

    @Property
    void daysAndMicrosecondsAreReadAsTheyAreWritten(
            @ForAll @IntRange(min = -800_000, max = 3_000_000) int day,
            @ForAll @LongRange(min = 0, max = 86_399_999_999L) long micros) {
        byte[] text = new byte[40];
        int end = TemporalDigits.date(day, text, 3);
        boolean usual = day >= -719_162 && day <= 2_932_896;
        assertThat(TemporalDigits.days(text, 3, end)).isEqualTo(usual ? day : TemporalDigits.NONE);
        int last = TemporalDigits.time(micros, text, end);
        assertThat(TemporalDigits.micros(text, end, last)).isEqualTo(micros);
        assertThat(TemporalDigits.micros(text, end, last - 1)).isNotEqualTo(micros);
    }

    @Test
    void whatIsNoNumberIsNotProperAsOne() {
        for (String text :
                List.of("", " ", "-", "1.5 ", "1.50", "1e5", "Infinity", "+1.5", "0x1p3", "1.5d", "1E400", "-NaN")) {
            assertThat(isProper(LogicalType.DOUBLE, text)).as(text).isFalse();
            assertThat(isProper(LogicalType.REAL, text)).as(text).isFalse();
        }
    }

    @Test
    void datesBeforeTheYearOneAndAfterTheYear9999AreWrittenAsXmlSchemaDoes() throws InvalidValueException {
        assertThat(proper(LogicalType.DATE, "-4712-01-01")).isEqualTo("-4712-01-01");
        assertThat(proper(LogicalType.DATE, "12031-12-31")).isEqualTo("12031-12-31");
        assertThat(proper(LogicalType.DATE, "0000-02-29")).isEqualTo("0000-02-29");
        assertThat(isProper(LogicalType.DATE, "+12031-12-31")).isFalse();
        assertThat(isProper(LogicalType.DATE, "012031-12-31")).isFalse();
        assertThat(JavaValues.date("-4712-01-01").getYear()).isEqualTo(-4712);
        assertThat(JavaValues.text(JavaValues.timestamp("12031-12-31T23:59:59.999999")))
                .isEqualTo("12031-12-31T23:59:59.999999");
    }

    @Property(tries = 5_000)
    void utf8IsCheckedAsTheJdkChecksIt(@ForAll @Size(max = 40) byte[] bytes) {
        String decoded = new String(bytes, StandardCharsets.UTF_8);
        boolean valid = Arrays.equals(decoded.getBytes(StandardCharsets.UTF_8), bytes);
        assertThat(Utf8.firstInvalid(bytes, 0, bytes.length) < 0).isEqualTo(valid);
    }

    @Property(tries = 3_000)
    void theFirstByteThatIsNoTextIsWhereTheJdkFindsIt(
            @ForAll("mostlyAscii") String text, @ForAll @IntRange(min = 0, max = 90) int at, @ForAll byte other) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        assertThat(Utf8.firstInvalid(bytes, 0, bytes.length)).isEqualTo(-1);
        if (at < bytes.length) {
            bytes[at] = other;
        }
        ByteBuffer in = ByteBuffer.wrap(bytes);
        CoderResult result = StandardCharsets.UTF_8.newDecoder().decode(in, CharBuffer.allocate(bytes.length), true);
        assertThat(Utf8.firstInvalid(bytes, 0, bytes.length)).isEqualTo(result.isError() ? in.position() : -1);
    }

    @Provide
    Arbitrary<String> mostlyAscii() {
        return Arbitraries.frequencyOf(
                        Tuple.of(8, Arbitraries.strings().ascii().ofMaxLength(12)),
                        Tuple.of(2, Arbitraries.of("ñ", "żó", "€", "漢字", "🌿", "\uFEFF", "\uD7FF", "\uE000")))
                .list()
                .ofMaxSize(9)
                .map(parts -> String.join("", parts));
    }

    @Property
    void textIsEncodedAsTheJdkEncodesIt(@ForAll String text) {
        RecordBatch batch = new RecordBatch();
        batch.start(1, "t", "test", false);
        boolean whole = StandardCharsets.UTF_8.newEncoder().canEncode(text);
        assertThat(batch.add(text)).isEqualTo(whole);
        if (whole) {
            batch.endRow(1);
            assertThat(batch.copy(0, 0)).isEqualTo(text.getBytes(StandardCharsets.UTF_8));
        }
    }

    @Test
    void typesAreWrittenAndReadInTheWordsOfTheStandard() {
        for (String text : new String[] {
            "BOOLEAN",
            "CHARACTER VARYING(40)",
            "DECIMAL(38,10)",
            "DOUBLE PRECISION",
            "TIMESTAMP(6) WITH TIME ZONE",
            "TIMESTAMP WITH TIME ZONE",
            "BINARY LARGE OBJECT",
            "DECIMAL(9,2) ARRAY"
        }) {
            assertThat(LogicalType.parse(text)).hasToString(text);
        }
    }

    /** ISO/IEC 9075-2, 6.1. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            int               | INTEGER
            Varchar(5)        | CHARACTER VARYING(5)
            char varying ( 5 ) | CHARACTER VARYING(5)
            NUMERIC(9,2)      | DECIMAL(9,2)
            CLOB ARRAY        | CHARACTER LARGE OBJECT ARRAY
            """)
    void theStandardsShortWordsAreTakenToo(String given, String type) {
        assertThat(LogicalType.parse(given)).hasToString(type);
    }

    /** What a parser of bytes would find out as another encoding, or pass over, no database would take. */
    @Test
    void jsonIsUtf8AndBeginsWithItself() {
        assertThat(isProper(LogicalType.JSON, "{\"a\": [1]}")).isTrue();
        assertThat(isProper(LogicalType.JSON, "\"\uFEFF\"")).isTrue();
        assertThat(isProper(LogicalType.JSON, "\uFEFF{}")).isFalse();
        assertThat(isProper(LogicalType.JSON, "\u00001")).isFalse();
        assertThat(isProper(LogicalType.JSON, "1\u0000")).isFalse();
        assertThat(isProper(LogicalType.JSON, "\u0000\u0000\u00001")).isFalse();
        assertThat(isProper(LogicalType.JSON, "1\u0000\u0000\u0000")).isFalse();
    }

    /** What is read without a formatter is what one reads, and what it refuses is refused. */
    @Property
    void momentsAreReadAsTheyAreWritten(
            @ForAll @LongRange(min = -99_999_999_999L, max = 299_999_999_999L) long second,
            @ForAll @IntRange(max = 999_999_999) int nano,
            @ForAll @IntRange(max = 9) int zeros) {
        int rounded = nano - nano % (int) Math.pow(10, zeros);
        LocalDateTime moment = LocalDateTime.ofEpochSecond(second, rounded, ZoneOffset.UTC);
        assertThat(JavaValues.timestamp(JavaValues.text(moment))).isEqualTo(moment);
        assertThat(JavaValues.instant(JavaValues.text(moment.atOffset(ZoneOffset.UTC))))
                .isEqualTo(moment.atOffset(ZoneOffset.UTC));
        assertThat(JavaValues.date(JavaValues.text(moment.toLocalDate()))).isEqualTo(moment.toLocalDate());
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "2031-02-30",
                "2031-13-01T07:30:00",
                "2031-04-09T24:00:00",
                "2031-04-09T07:30:60",
                "2031-04-09T07:30:00.1234567890",
                "2031-04-09 07:30:00",
                "2031-4-9",
                "20310409",
                "2031-04-09T07:30:00z",
                "\u0662031-04-09"
            })
    void whatIsNoMomentIsRefused(String text) {
        for (String one : List.of(text, text + "Z")) {
            assertThatThrownBy(() -> JavaValues.timestamp(one)).isInstanceOf(DateTimeException.class);
            assertThatThrownBy(() -> JavaValues.instant(one)).isInstanceOf(DateTimeException.class);
            assertThatThrownBy(() -> JavaValues.date(one)).isInstanceOf(DateTimeException.class);
        }
    }
}
