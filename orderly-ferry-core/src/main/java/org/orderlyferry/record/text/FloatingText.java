package org.orderlyferry.record.text;

import ch.randelshofer.fastdoubleparser.JavaDoubleParser;
import ch.randelshofer.fastdoubleparser.JavaFloatParser;
import java.math.BigDecimal;
import java.math.MathContext;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** Binary floating point numbers: the shortest text that reads back to the same bits; {@code NaN INF -INF}. */
final class FloatingText extends ValueText {

    private final boolean single;
    private final int sureDigits;

    FloatingText(LogicalType type) {
        super(type);
        this.single = type.name() == TypeName.REAL;
        this.sureDigits = single ? 6 : 15;
    }

    @Override
    public boolean isProper(byte[] b, int start, int end) {
        if (isSurelyShortest(b, start, end)) {
            return true;
        }
        try {
            return single
                    ? is(b, start, end, JavaValues.text(JavaFloatParser.parseFloat(b, start, end - start)))
                    : isShortest(b, start, end, JavaDoubleParser.parseDouble(b, start, end - start));
        } catch (NumberFormatException e) {
            return is(b, start, end, "INF") || is(b, start, end, "-INF");
        }
    }

    private static boolean isShortest(byte[] b, int start, int end, double value) {
        byte[] proper = new byte[JavaValues.DOUBLE_ROOM];
        return Arrays.equals(b, start, end, proper, 0, JavaValues.write(value, proper, 0));
    }

    private static boolean is(byte[] b, int start, int end, String text) {
        return end - start == text.length()
                && text.equals(new String(b, start, end - start, StandardCharsets.ISO_8859_1));
    }

    /**
     * A decimal with no more digits than the type keeps for sure (15 of a double, 6 of a float) is the shortest text of
     * the number that it reads to: two such decimals never read to the same number. So where the notation is right too,
     * nothing has to be parsed.
     */
    private boolean isSurelyShortest(byte[] b, int start, int end) {
        int i = start < end && b[start] == '-' ? start + 1 : start;
        int whole = i;
        while (i < end && isDigit(b[i])) {
            i++;
        }
        int wholeDigits = i - whole;
        int fraction = i + 1;
        int fractionDigits = end - fraction;
        if (wholeDigits == 0
                || wholeDigits > 7
                || fractionDigits < 1
                || b[i] != '.'
                || wholeDigits + fractionDigits > sureDigits
                || b[whole] == '0' && wholeDigits > 1
                || b[end - 1] == '0' && fractionDigits > 1) {
            return false;
        }
        for (int k = fraction; k < end; k++) {
            if (!isDigit(b[k])) {
                return false;
            }
        }
        // below 0.001 the proper form has an exponent
        return b[whole] != '0'
                || fractionDigits == 1
                || b[fraction] != '0'
                || b[fraction + 1] != '0'
                || fractionDigits > 2 && b[fraction + 2] != '0';
    }

    @Override
    public String toProper(String text) throws InvalidValueException {
        String trimmed = text.strip();
        switch (trimmed) {
            case "NaN", "INF", "-INF" -> {
                return trimmed;
            }
            case "+INF", "Infinity" -> {
                return "INF";
            }
            case "-Infinity" -> {
                return "-INF";
            }
            default -> {
                // a number, or nothing
            }
        }
        if (!NumberText.isOne(trimmed)) {
            throw isNot();
        }
        double value;
        try {
            value = single ? JavaFloatParser.parseFloat(trimmed) : JavaDoubleParser.parseDouble(trimmed);
        } catch (NumberFormatException e) {
            throw isNot();
        }
        if (Double.isInfinite(value) || value == 0 && hasNonZeroDigit(trimmed)) {
            throw new InvalidValueException("is outside the range of " + type());
        }
        String proper = single ? JavaValues.text((float) value) : JavaValues.text(value);
        mustKeep(trimmed, value);
        return proper;
    }

    /**
     * More digits than any program needs to tell two numbers of the type apart are those of a number that the type can't
     * hold, unless they are just the binary number's own.
     */
    private void mustKeep(String text, double held) throws InvalidValueException {
        if (NumberText.digits(text) <= (single ? 9 : 17)) {
            return;
        }
        BigDecimal told = ExactNumber.of(text).stripTrailingZeros();
        if (told.precision() > (single ? 9 : 17)
                && new BigDecimal(held).round(new MathContext(told.precision())).compareTo(told) != 0) {
            throw new InvalidValueException("has more digits than " + type() + " can hold");
        }
    }

    private static boolean hasNonZeroDigit(String number) {
        for (int i = 0; i < number.length(); i++) {
            char c = number.charAt(i);
            if (c == 'e' || c == 'E') {
                return false;
            }
            if (c >= '1' && c <= '9') {
                return true;
            }
        }
        return false;
    }
}
