package org.orderlyferry.databases.check;

import java.math.BigDecimal;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.check.Told.Exactness;

/** Numbers of a system: what is sure to come out if they are compared and reckoned with. */
final class NumberRules {

    /** Every whole number below it is one of four bytes' floating point, and none of them is what another is rounded to. */
    private static final BigDecimal EXACT_FLOAT = BigDecimal.valueOf(1 << 24);

    /** So many digits does every system keep that reckons in decimals; some not many more. */
    private static final int KEPT_DIGITS = 18;

    /** So many digits of a decimal are told apart by a double. */
    private static final int DOUBLE_DIGITS = 15;

    private static final int LONGEST = 1000;

    private static final Set<Exactness> EXACT = Set.of(Exactness.WHOLE, Exactness.DECIMAL);

    private final boolean decimals;

    NumberRules(String system) {
        decimals = !system.equals("SQLite");
    }

    /** A number as it stands in a check. */
    static Told literal(String digits) {
        // with an exponent, a few letters may stand for more digits than there is memory
        return digits.matches("[0-9]{1,40}(\\.[0-9]{0,40})?|\\.[0-9]{1,40}")
                ? of(digits, digits.contains(".") ? Exactness.DECIMAL : Exactness.WHOLE)
                : Told.OPEN;
    }

    /** A number from its text; nothing where that is something else, such as NaN. */
    static Told of(String text, Exactness exactness) {
        if (text.length() > LONGEST) {
            return Told.OPEN;
        }
        try {
            BigDecimal value = new BigDecimal(text);
            return Math.abs((long) value.scale()) > LONGEST ? Told.OPEN : new Told.Number(value, exactness);
        } catch (NumberFormatException e) {
            return Told.OPEN;
        }
    }

    /** How two compare; nothing where that can't be told. */
    Optional<Integer> order(Told.Number one, Told.Number other) {
        Optional<Integer> order = Optional.of(one.value().compareTo(other.value()));
        if (EXACT.contains(one.exactness()) && EXACT.contains(other.exactness())) {
            boolean whole = one.exactness() == Exactness.WHOLE && other.exactness() == Exactness.WHOLE;
            boolean short15 = digits(one) <= DOUBLE_DIGITS && digits(other) <= DOUBLE_DIGITS;
            return decimals || whole || short15 ? order : Optional.empty();
        }
        boolean alike = one.exactness() == other.exactness();
        return alike || isSmallAndWhole(one) || isSmallAndWhole(other) ? order : Optional.empty();
    }

    private static boolean isSmallAndWhole(Told.Number number) {
        return number.exactness() == Exactness.WHOLE && number.value().abs().compareTo(EXACT_FLOAT) < 0;
    }

    private static int digits(Told.Number number) {
        return number.value().signum() == 0
                ? 1
                : number.value().stripTrailingZeros().precision();
    }

    /** What {@code +}, {@code -} or {@code *} makes of two. */
    Told reckoned(String operator, Told left, Told right) {
        if (left instanceof Told.Nothing || right instanceof Told.Nothing) {
            return left instanceof Told.Open || right instanceof Told.Open ? Told.OPEN : Told.NULL;
        }
        if (!(left instanceof Told.Number one)
                || !(right instanceof Told.Number other)
                || !EXACT.contains(one.exactness())
                || !EXACT.contains(other.exactness())) {
            return Told.OPEN;
        }
        BigDecimal result =
                switch (operator) {
                    case "+" -> one.value().add(other.value());
                    case "-" -> one.value().subtract(other.value());
                    default -> one.value().multiply(other.value());
                };
        boolean whole = one.exactness() == Exactness.WHOLE && other.exactness() == Exactness.WHOLE;
        Told.Number number = new Told.Number(result, whole ? Exactness.WHOLE : Exactness.DECIMAL);
        return (whole || decimals) && result.precision() <= KEPT_DIGITS ? number : Told.OPEN;
    }
}
