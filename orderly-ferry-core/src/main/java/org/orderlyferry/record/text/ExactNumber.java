package org.orderlyferry.record.text;

import java.math.BigDecimal;
import org.apiguardian.api.API;

/**
 * Texts of exact numbers. A few characters can stand for a number of a milliard digits, which would take all memory as
 * soon as it is written out; no system has numbers of more than 150,000.
 */
@API(status = API.Status.INTERNAL)
public final class ExactNumber {

    private static final int MOST_DIGITS = 150_000;

    private ExactNumber() {}

    /**
     * The number that a text stands for, which can be written out.
     *
     * @throws NumberFormatException if it stands for none
     * @throws InvalidValueException if it has too many digits
     */
    public static BigDecimal of(String text) throws InvalidValueException {
        String bare = text.strip();
        if (bare.length() > MOST_DIGITS) {
            throw tooMany();
        }
        if (!NumberText.isOne(bare)) {
            throw new NumberFormatException(bare);
        }
        BigDecimal number = new BigDecimal(bare);
        // the scale of a long text is small, and the other way round
        if (Math.abs((long) number.scale()) > MOST_DIGITS) {
            throw tooMany();
        }
        return number;
    }

    private static InvalidValueException tooMany() {
        return new InvalidValueException("has more than " + MOST_DIGITS + " digits when it is written out");
    }
}
