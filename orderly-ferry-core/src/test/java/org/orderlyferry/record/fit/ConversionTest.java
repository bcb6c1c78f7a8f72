package org.orderlyferry.record.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Scale;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.record.text.ValueText;

/** A value arrives as what it was, or is refused: it is never rounded, cut or read as what it isn't. */
@Tag("everywhere")
class ConversionTest {

    private static String converted(String value, LogicalType from, LogicalType to) throws InvalidValueException {
        RecordBatch batch = new RecordBatch();
        batch.start(1, "t", "test", false);
        batch.add(value.getBytes(StandardCharsets.UTF_8));
        batch.endRow(1);
        Conversion conversion = Conversion.between(from, to);
        if (conversion != null) {
            conversion.apply(batch, 0, 0);
        }
        return batch.text(0, 0);
    }

    private static void sameOrRefused(String value, LogicalType from, LogicalType to) {
        String there;
        try {
            there = converted(value, from, to);
        } catch (InvalidValueException e) {
            return;
        }
        assertThat(new BigDecimal(there)).as(value + " as " + to).isEqualByComparingTo(new BigDecimal(value));
    }

    @Property(tries = 5_000)
    void aDecimalIsNeverRounded(@ForAll @Scale(20) BigDecimal value) {
        String text = value.toPlainString();
        LogicalType from = LogicalType.of(TypeName.DECIMAL);
        for (LogicalType to : new LogicalType[] {
            LogicalType.DOUBLE, LogicalType.REAL, LogicalType.decimal(12, 4), LogicalType.BIGINT, LogicalType.INTEGER
        }) {
            sameOrRefused(text, from, to);
        }
    }

    @Property(tries = 5_000)
    void aWholeNumberIsNeverRounded(@ForAll long value) {
        sameOrRefused(Long.toString(value), LogicalType.BIGINT, LogicalType.DOUBLE);
        sameOrRefused(Long.toString(value), LogicalType.BIGINT, LogicalType.REAL);
        sameOrRefused(Long.toString(value), LogicalType.BIGINT, LogicalType.SMALLINT);
    }

    @Property(tries = 5_000)
    void aDoubleIsNeverRounded(@ForAll double value) {
        String text = JavaValues.text(value);
        sameOrRefused(text, LogicalType.DOUBLE, LogicalType.REAL);
        sameOrRefused(text, LogicalType.DOUBLE, LogicalType.of(TypeName.DECIMAL));
        sameOrRefused(text, LogicalType.DOUBLE, LogicalType.decimal(20, 6));
    }

    @Property(tries = 2_000)
    void whatADoubleHoldsWholeIsTaken(@ForAll @IntRange(min = -1_000_000, max = 1_000_000) int thousandths)
            throws InvalidValueException {
        String text = BigDecimal.valueOf(thousandths, 3).toPlainString();
        assertThat(new BigDecimal(converted(text, LogicalType.decimal(12, 3), LogicalType.DOUBLE)))
                .isEqualByComparingTo(text);
    }

    @ParameterizedTest
    @CsvSource({
        "0.12345678901234567890, DOUBLE",
        "9007199254740993, DOUBLE",
        "0.123456789, REAL",
        "16777217, REAL",
    })
    void whatWouldBeRoundedIsRefused(String value, String to) {
        assertThatThrownBy(
                        () -> converted(value, LogicalType.of(TypeName.DECIMAL), LogicalType.of(TypeName.valueOf(to))))
                .isInstanceOf(InvalidValueException.class)
                .hasMessageMatching(".*(would be rounded|more digits).*");
    }

    @ParameterizedTest
    @ValueSource(strings = {"12d", "1f", "0x1p3", "1_000", "١٢", "１２", "1e", ".", "+", "1.2.3", "NaN ", "--1", "1e1.5"})
    void whatOnlyJavaTakesForANumberIsNone(String text) {
        for (LogicalType type : new LogicalType[] {
            LogicalType.DOUBLE, LogicalType.REAL, LogicalType.BIGINT, LogicalType.of(TypeName.DECIMAL)
        }) {
            if (text.equals("NaN ") && type.name().isApproximateNumber()) {
                continue;
            }
            assertThatThrownBy(() -> ValueText.of(type).toProper(text))
                    .as(text + " as " + type)
                    .isInstanceOf(InvalidValueException.class);
        }
    }

    @ParameterizedTest
    @CsvSource({
        "0.1000000000000000055511151231257827, 0.1",
        "0.10000000000000001, 0.1",
        "1e2, 100.0",
        "+7, 7.0",
        "100000000000000000000, 1.0E20"
    })
    void manyDigitsAreTakenWhereTheyAreTheBinaryNumbersOwn(String text, String proper) throws InvalidValueException {
        assertThat(ValueText.of(LogicalType.DOUBLE).toProper(text)).isEqualTo(proper);
    }

    @ParameterizedTest
    @ValueSource(strings = {"1.234567890123456789", "12345678901234567890123", "0.10000000000000000123"})
    void moreDigitsThanADoubleHasAreRefused(String text) {
        assertThatThrownBy(() -> ValueText.of(LogicalType.DOUBLE).toProper(text))
                .hasMessageContaining("more digits");
    }

    @ParameterizedTest
    @CsvSource({
        "{0B4E63C1-2E63-4C44-8A52-1D4E5F5C9A01}, true",
        "0b4e63c12e634c448a521d4e5f5c9a01, true",
        "{0b4e63c1-2e63-4c44-8a52-1d4e5f5c9a01, false",
        "0b4e63c1-2e63-4c44-8a52-1d4e5f5c9a01}, false",
        "0b4e63c1-2e63-4c44-8a521-d4e5f5c9a01, false",
        "0b4e63c12e63-4c44-8a52-1d4e5f5c9a01, false",
        "0b4e63{c12e634c448a52}1d4e5f5c9a01, false"
    })
    void anIdentifierHasItsHyphensInTheirPlacesOrNone(String text, boolean taken) {
        boolean found;
        try {
            ValueText.of(LogicalType.UUID).toProper(text);
            found = true;
        } catch (InvalidValueException e) {
            found = false;
        }
        assertThat(found).isEqualTo(taken);
    }
}
