package org.orderlyferry.tally;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;

class ComparisonFormTest {

    /** Whatever stands around it: what a batch holds before and behind a value has points too. */
    @Property
    void zerosAtTheEndOfAFractionDoNotCount(
            @ForAll BigInteger whole,
            @ForAll @IntRange(min = 0, max = 999_999_999) int fraction,
            @ForAll @IntRange(min = 0, max = 12) int zeros,
            @ForAll @IntRange(min = 0, max = 20) int before,
            @ForAll @IntRange(min = 0, max = 20) int behind) {
        String digits = String.valueOf(fraction).replaceAll("0+$", "");
        String wanted = digits.isEmpty() ? whole.toString() : whole + "." + digits;
        boolean pointed = !digits.isEmpty() || zeros > 0;
        String text = pointed ? whole + "." + digits + "0".repeat(zeros) : whole.toString();
        byte[] bytes = ("0.".repeat(before) + text + ".0".repeat(behind)).getBytes(StandardCharsets.US_ASCII);
        Cell cell = new Cell();
        cell.set(bytes, 2 * before, 2 * before + text.length());
        ComparisonForm.NUMBER.apply(cell);
        assertThat(cell.text()).isEqualTo(wanted);
    }
}
