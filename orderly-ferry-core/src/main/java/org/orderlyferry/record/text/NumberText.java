package org.orderlyferry.record.text;

/**
 * What a number looks like as XML Schema and SQL write it: ASCII digits with a sign, a point and an exponent. Java reads
 * more than that as numbers: digits of other scripts, {@code 12d}, {@code 0x1p3}.
 */
final class NumberText {

    private NumberText() {}

    static boolean isOne(String text) {
        int i = 0;
        int length = text.length();
        if (i < length && (text.charAt(i) == '-' || text.charAt(i) == '+')) {
            i++;
        }
        int digits = 0;
        boolean point = false;
        for (; i < length; i++) {
            char c = text.charAt(i);
            if (c >= '0' && c <= '9') {
                digits++;
            } else if (c == '.' && !point) {
                point = true;
            } else {
                break;
            }
        }
        if (digits == 0) {
            return false;
        }
        if (i == length) {
            return true;
        }
        if (text.charAt(i) != 'e' && text.charAt(i) != 'E') {
            return false;
        }
        i++;
        if (i < length && (text.charAt(i) == '-' || text.charAt(i) == '+')) {
            i++;
        }
        int first = i;
        while (i < length && text.charAt(i) >= '0' && text.charAt(i) <= '9') {
            i++;
        }
        return i == length && i > first;
    }

    /** How many digits stand in front of an exponent. */
    static int digits(String text) {
        int digits = 0;
        for (int i = 0; i < text.length() && text.charAt(i) != 'e' && text.charAt(i) != 'E'; i++) {
            digits += text.charAt(i) >= '0' && text.charAt(i) <= '9' ? 1 : 0;
        }
        return digits;
    }
}
