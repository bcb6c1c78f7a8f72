package org.orderlyferry.record.text;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.core.io.NumberOutput;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.SplittableRandom;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

/** Doubles as text, against another's writing of them, and against what the shortest text has to be. */
class ShortestDecimalTest {

    private final byte[] to = new byte[ShortestDecimal.ROOM + 3];

    private String text(double value) {
        return new String(to, 3, ShortestDecimal.write(value, to, 3) - 3, StandardCharsets.US_ASCII);
    }

    private void mustBeTheSame(double value) {
        if (Double.isFinite(value) && !text(value).equals(NumberOutput.toString(value, true))) {
            assertThat(text(value)).isEqualTo(NumberOutput.toString(value, true));
        }
    }

    @Property(tries = 5_000)
    void itReadsBackAndNothingShorterDoes(@ForAll long bits) {
        double value = Double.longBitsToDouble(bits);
        if (!Double.isFinite(value)) {
            return;
        }
        mustBeTheSame(value);
        assertThat(Double.parseDouble(text(value))).isEqualTo(value);
        BigDecimal told = new BigDecimal(text(value)).stripTrailingZeros();
        if (told.precision() > 2) {
            BigDecimal exact = new BigDecimal(value);
            for (RoundingMode mode : List.of(RoundingMode.DOWN, RoundingMode.UP)) {
                BigDecimal shorter = exact.round(new java.math.MathContext(told.precision() - 1, mode));
                assertThat(shorter.doubleValue()).as("%s is shorter", shorter).isNotEqualTo(value);
            }
        }
    }

    @Test
    void manyNumbersOfEachKindAreWrittenAsAnotherWritesThem() {
        SplittableRandom random = new SplittableRandom(20_261_202);
        for (int i = 0; i < 300_000; i++) {
            mustBeTheSame(Double.longBitsToDouble(random.nextLong()));
            mustBeTheSame(random.nextDouble() * 1e9 - 5e8);
            mustBeTheSame(random.nextInt() / 1000.0);
            mustBeTheSame(random.nextLong() >> random.nextInt(64));
            mustBeTheSame(random.nextInt(1000) * Math.pow(10, random.nextInt(40) - 20));
        }
    }

    @Test
    void allPowersOfTwoAndTenAndTheirNeighboursAreWrittenAsAnotherWritesThem() {
        for (int q = -1074; q < 1024; q++) {
            around(Math.scalb(1.0, q));
        }
        for (int k = -324; k <= 308; k++) {
            around(Double.parseDouble("1E" + k));
        }
        around(0.001);
        around(1e7);
        around(9_007_199_254_740_992.0);
    }

    private void around(double value) {
        for (double near : new double[] {value, Math.nextUp(value), Math.nextDown(value), -value}) {
            mustBeTheSame(near);
        }
    }

    @Test
    void theLayoutIsJavas() {
        assertThat(List.of(text(0), text(-0.0), text(1), text(100), text(9_999_999), text(1e7)))
                .containsExactly("0.0", "-0.0", "1.0", "100.0", "9999999.0", "1.0E7");
        assertThat(List.of(text(0.001), text(0.00099), text(-1234.5), text(1e23), text(Double.MIN_VALUE)))
                .containsExactly("0.001", "9.9E-4", "-1234.5", "1.0E23", "4.9E-324");
        assertThat(List.of(text(Double.MAX_VALUE), text(2e-323), text(0.1 + 0.2)))
                .containsExactly("1.7976931348623157E308", "2.0E-323", "0.30000000000000004");
    }
}
