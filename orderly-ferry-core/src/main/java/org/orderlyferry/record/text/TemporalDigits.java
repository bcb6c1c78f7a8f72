package org.orderlyferry.record.text;

import org.apiguardian.api.API;

/** Dates and times of day as value text, in ASCII, without a String in between. */
@API(status = API.Status.INTERNAL)
public final class TemporalDigits {

    /** What isn't in its usual form has no number. */
    public static final long NONE = Long.MIN_VALUE;

    private static final int DATE_LENGTH = 10;
    private static final int SECOND_LENGTH = 8;
    /** As many digits as a microsecond has behind the second. */
    private static final int FRACTION_DIGITS = 6;

    private TemporalDigits() {}

    /**
     * Reads a date as it is usually written, {@code 2031-04-09}, of the years from 1 to 9999.
     *
     * @return days since 1970-01-01, or {@link #NONE} for any other text
     */
    public static long days(byte[] text, int start, int end) {
        if (end - start != DATE_LENGTH || text[start + 4] != '-' || text[start + 7] != '-') {
            return NONE;
        }
        int century = two(text, start);
        int ofCentury = two(text, start + 2);
        int year = century * 100 + ofCentury;
        int month = two(text, start + 5);
        int day = two(text, start + 8);
        if (century < 0 || ofCentury < 0 || year < 1 || month < 1 || month > 12 || day < 1) {
            return NONE;
        }
        if (day > 28 && day > daysIn(year, month)) {
            return NONE;
        }
        // years that begin with March, so that a leap day is a year's last
        int shiftedYear = month <= 2 ? year - 1 : year;
        int shiftedMonth = month <= 2 ? month + 9 : month - 3;
        int dayOfYear = (153 * shiftedMonth + 2) / 5 + day - 1;
        return 365L * shiftedYear + shiftedYear / 4 - shiftedYear / 100 + shiftedYear / 400 + dayOfYear - 719_468;
    }

    /** How many days a month of the proleptic Gregorian calendar has. */
    static int daysIn(int year, int month) {
        return switch (month) {
            case 2 -> year % 4 == 0 && (year % 100 != 0 || year % 400 == 0) ? 29 : 28;
            case 4, 6, 9, 11 -> 30;
            default -> 31;
        };
    }

    /**
     * Reads a time of day as it is usually written, {@code 07:30:00.25}, with up to six digits behind the point.
     *
     * @return microseconds since midnight, or {@link #NONE} for any other text
     */
    public static long micros(byte[] text, int start, int end) {
        if (end - start < SECOND_LENGTH || text[start + 2] != ':' || text[start + 5] != ':') {
            return NONE;
        }
        int hour = two(text, start);
        int minute = two(text, start + 3);
        int second = two(text, start + 6);
        if (hour < 0 || hour > 23 || minute < 0 || minute > 59 || second < 0 || second > 59) {
            return NONE;
        }
        int fraction = 0;
        int point = start + SECOND_LENGTH;
        if (point < end) {
            int digits = end - point - 1;
            if (text[point] != '.' || digits < 1 || digits > FRACTION_DIGITS) {
                return NONE;
            }
            for (int i = 1; i <= FRACTION_DIGITS; i++) {
                int digit = i <= digits ? text[point + i] - '0' : 0;
                if (digit < 0 || digit > 9) {
                    return NONE;
                }
                fraction = fraction * 10 + digit;
            }
        }
        return ((hour * 60L + minute) * 60 + second) * 1_000_000 + fraction;
    }

    /** The number of two digits; negative if they are none. */
    static int two(byte[] text, int at) {
        int tens = text[at] - '0';
        int ones = text[at + 1] - '0';
        return tens < 0 || tens > 9 || ones < 0 || ones > 9 ? -1 : tens * 10 + ones;
    }

    /**
     * Writes a date of the proleptic Gregorian calendar.
     *
     * @param sinceEpoch days since 1970-01-01
     * @return where it ends; it takes up to 16 bytes
     */
    public static int date(long sinceEpoch, byte[] text, int from) {
        // days since 0000-03-01, so that a leap day is a year's last
        long days = sinceEpoch + 719_468;
        long era = Math.floorDiv(days, 146_097L);
        int dayOfEra = (int) (days - era * 146_097);
        int yearOfEra = (dayOfEra - dayOfEra / 1460 + dayOfEra / 36_524 - dayOfEra / 146_096) / 365;
        int dayOfYear = dayOfEra - (365 * yearOfEra + yearOfEra / 4 - yearOfEra / 100);
        int shifted = (5 * dayOfYear + 2) / 153;
        int day = dayOfYear - (153 * shifted + 2) / 5 + 1;
        int month = shifted < 10 ? shifted + 3 : shifted - 9;
        long year = yearOfEra + era * 400 + (month <= 2 ? 1 : 0);
        int at = from;
        if (year < 0) {
            text[at++] = '-';
            year = -year;
        }
        if (year < 10_000) {
            int century = (int) year / 100;
            Digits.two(century, text, at);
            Digits.two((int) year - century * 100, text, at + 2);
            at += 4;
        } else {
            at = Digits.write(year, text, at);
        }
        text[at] = '-';
        Digits.two(month, text, at + 1);
        text[at + 3] = '-';
        Digits.two(day, text, at + 4);
        return at + 6;
    }

    /**
     * Writes a time of day.
     *
     * @param micros microseconds since midnight
     * @return where it ends; it takes up to 15 bytes
     */
    public static int time(long micros, byte[] text, int from) {
        int seconds = (int) (micros / 1_000_000);
        int fraction = (int) (micros - seconds * 1_000_000L);
        int minutes = seconds / 60;
        int hours = minutes / 60;
        Digits.two(hours, text, from);
        text[from + 2] = ':';
        Digits.two(minutes - hours * 60, text, from + 3);
        text[from + 5] = ':';
        Digits.two(seconds - minutes * 60, text, from + 6);
        int at = from + 8;
        if (fraction > 0) {
            text[at++] = '.';
            for (int divisor = 10_000; divisor > 0; divisor /= 100) {
                int two = fraction / divisor;
                Digits.two(two, text, at);
                fraction -= two * divisor;
                at += 2;
            }
            while (text[at - 1] == '0') {
                at--;
            }
        }
        return at;
    }
}
