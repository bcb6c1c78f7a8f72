package org.orderlyferry.record.text;

import java.math.BigInteger;
import org.orderlyferry.model.LogicalType;

/** Whole numbers: no plus sign, no leading zeros, no minus zero. */
final class IntegerText extends ValueText {

    private static final int SURE_DIGITS = 18;

    private final long min;
    private final long max;

    IntegerText(LogicalType type, long min, long max) {
        super(type);
        this.min = min;
        this.max = max;
    }

    @Override
    public boolean isProper(byte[] b, int start, int end) {
        boolean negative = start < end && b[start] == '-';
        int first = negative ? start + 1 : start;
        int digits = end - first;
        if (digits < 1 || digits > SURE_DIGITS || b[first] == '0' && (digits > 1 || negative)) {
            return false;
        }
        long value = 0;
        for (int i = first; i < end; i++) {
            if (!isDigit(b[i])) {
                return false;
            }
            value = value * 10 + (b[i] - '0');
        }
        return negative ? -value >= min : value <= max;
    }

    @Override
    public String toProper(String text) throws InvalidValueException {
        BigInteger value;
        try {
            // "12.0" and "1.2E1" are whole numbers too; BigDecimal knows them all
            value = ExactNumber.of(text).toBigIntegerExact();
        } catch (NumberFormatException e) {
            throw isNot();
        } catch (ArithmeticException e) {
            throw new InvalidValueException("has digits behind the point, the column is " + type());
        }
        if (value.compareTo(BigInteger.valueOf(min)) < 0 || value.compareTo(BigInteger.valueOf(max)) > 0) {
            throw new InvalidValueException("is outside the range of " + type());
        }
        return value.toString();
    }
}
