package org.orderlyferry.record.text;

import java.math.BigDecimal;
import java.math.RoundingMode;
import org.orderlyferry.model.LogicalType;

/** Exact numbers, written with the declared scale. */
final class DecimalText extends ValueText {

    private final int precision;
    private final int scale;

    DecimalText(LogicalType type) {
        super(type);
        this.precision = type.size();
        this.scale = type.isSized() && type.scale() == LogicalType.UNBOUNDED ? 0 : type.scale();
    }

    @Override
    public boolean isProper(byte[] b, int start, int end) {
        boolean negative = start < end && b[start] == '-';
        int i = negative ? start + 1 : start;
        int whole = i;
        boolean nonZero = false;
        while (i < end && isDigit(b[i])) {
            nonZero |= b[i] != '0';
            i++;
        }
        int wholeDigits = i - whole;
        if (wholeDigits == 0 || b[whole] == '0' && wholeDigits > 1) {
            return false;
        }
        int fractionDigits = 0;
        if (i < end) {
            if (b[i++] != '.') {
                return false;
            }
            fractionDigits = end - i;
            if (fractionDigits == 0) {
                return false;
            }
            for (; i < end; i++) {
                if (!isDigit(b[i])) {
                    return false;
                }
                nonZero |= b[i] != '0';
            }
        }
        if (negative && !nonZero) {
            return false;
        }
        if (scale == LogicalType.UNBOUNDED) {
            return true;
        }
        int counted = b[whole] == '0' ? 0 : wholeDigits;
        return fractionDigits == scale && counted <= precision - scale;
    }

    @Override
    public String toProper(String text) throws InvalidValueException {
        BigDecimal value;
        try {
            value = ExactNumber.of(text);
        } catch (NumberFormatException e) {
            throw isNot();
        }
        return of(value);
    }

    private String of(BigDecimal value) throws InvalidValueException {
        if (scale == LogicalType.UNBOUNDED) {
            return value.toPlainString();
        }
        BigDecimal scaled;
        try {
            scaled = value.setScale(scale, RoundingMode.UNNECESSARY);
        } catch (ArithmeticException e) {
            throw new InvalidValueException(
                    "has more than " + scale + " digits behind the point, the column is " + type());
        }
        if (scaled.precision() > precision && scaled.signum() != 0) {
            throw new InvalidValueException("is outside the range of " + type());
        }
        return scaled.toPlainString();
    }
}
