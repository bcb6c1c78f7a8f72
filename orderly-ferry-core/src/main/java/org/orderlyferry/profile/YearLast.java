package org.orderlyferry.profile;

/**
 * A date with its year at the end, such as {@code 04/05/2031} or {@code 4.5.2031}: which of the first two numbers is the
 * day, it doesn't say itself.
 *
 * @param first the first number
 * @param second the second
 * @param year the year
 * @param mark what stands in between
 * @param padded whether both have two digits
 */
record YearLast(int first, int second, int year, char mark, boolean padded) {

    private static final int MONTHS = 12;
    private static final int DAYS = 31;

    /** Null where it is none. */
    static YearLast read(byte[] bytes, int start, int end) {
        int length = end - start;
        if (length < 8 || length > 10) {
            return null;
        }
        int mark = -1;
        int[] numbers = new int[3];
        int[] digits = new int[3];
        int part = 0;
        for (int i = start; i < end; i++) {
            byte b = bytes[i];
            if (b >= '0' && b <= '9') {
                numbers[part] = numbers[part] * 10 + b - '0';
                digits[part]++;
            } else if ((b == '/' || b == '.' || b == '-') && part < 2 && (mark < 0 || mark == b)) {
                mark = b;
                part++;
            } else {
                return null;
            }
        }
        boolean shaped =
                part == 2 && digits[0] >= 1 && digits[0] <= 2 && digits[1] >= 1 && digits[1] <= 2 && digits[2] == 4;
        boolean day = numbers[0] >= 1 && numbers[1] >= 1 && numbers[0] <= DAYS && numbers[1] <= DAYS;
        return shaped && day && Math.min(numbers[0], numbers[1]) <= MONTHS
                ? new YearLast(numbers[0], numbers[1], numbers[2], (char) mark, digits[0] == 2 && digits[1] == 2)
                : null;
    }

    /** Whether the first number may be the day. */
    boolean canBeDayFirst() {
        return second <= MONTHS;
    }

    /** Whether the first number may be the month. */
    boolean canBeMonthFirst() {
        return first <= MONTHS;
    }

    /** A number that is larger for a later date. */
    int order(boolean isDayFirst) {
        return year * 10_000 + (isDayFirst ? second * 100 + first : first * 100 + second);
    }
}
