package org.orderlyferry.databases.place;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.util.List;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;

/** Boundaries between whole numbers, of which no slice may have more than it should. */
class WholeNumbersTest {

    @Property
    void noRangeHasMoreNumbersThanASliceHasRecords(
            @ForAll @LongRange(min = Long.MIN_VALUE, max = Long.MAX_VALUE - 4_000) long least,
            @ForAll @LongRange(min = 0, max = 4_000) long more,
            @ForAll @LongRange(min = 1, max = 900) long rows,
            @ForAll @LongRange(min = 1, max = 5_000) long all) {
        BigInteger first = BigInteger.valueOf(least);
        BigInteger last = first.add(BigInteger.valueOf(more));
        List<BigInteger> boundaries = between(first.toString(), last.toString(), rows, all).stream()
                .map(BigInteger::new)
                .toList();
        if (more + 1 > 2 * all) {
            assertThat(boundaries).as("most of them would be empty").isEmpty();
            return;
        }
        assertThat(boundaries.size() + 1L).isEqualTo((more + rows) / rows);
        BigInteger from = first;
        for (BigInteger boundary : boundaries) {
            assertThat(boundary.subtract(from).longValueExact()).isBetween(1L, rows);
            from = boundary;
        }
        assertThat(last.subtract(from).longValueExact() + 1).isBetween(1L, rows);
    }

    @Test
    void theWholeRangeOfALongIsOne() {
        String least = Long.toString(Long.MIN_VALUE);
        String greatest = Long.toString(Long.MAX_VALUE);
        assertThat(between(least, greatest, 10, 2)).isEmpty();
        assertThat(between("-1", greatest, Long.MAX_VALUE / 4, Long.MAX_VALUE)).isEmpty();
        assertThat(between("1", greatest, Long.MAX_VALUE / 4, Long.MAX_VALUE))
                .as("nobody has so many, but an estimate may say anything")
                .hasSize(4)
                .doesNotContain("1", greatest);
        assertThat(between(greatest, greatest, 10, 1)).isEmpty();
    }

    @Test
    void anEstimateBeyondReasonMakesNoSlicesWithoutEnd() {
        assertThat(between("1", "10000000", 1_000, 10_000_000)).hasSize(9_999);
        assertThat(between("1", "4000000000000000", 1_000, 4_000_000_000_000_000L))
                .isEmpty();
    }

    @Test
    void whatIsNoNumberIsNotCutByNumbers() {
        assertThat(WholeNumbers.between(Optional.empty(), Optional.empty(), 10, 100))
                .isEmpty();
        assertThat(between("1", "a'); DROP TABLE reading; --", 10, 100)).isEmpty();
        assertThat(between("1.5", "90", 10, 100)).isEmpty();
        assertThat(between("", "90", 10, 100)).isEmpty();
        assertThat(between("1", "9".repeat(4_000_000), 10, 100)).isEmpty();
        assertThat(between("90", "1", 10, 100))
                .as("a server that doesn't count")
                .isEmpty();
    }

    private static List<String> between(String least, String greatest, long rows, long all) {
        return WholeNumbers.between(Optional.of(least), Optional.of(greatest), rows, all);
    }
}
