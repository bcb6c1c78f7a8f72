package org.orderlyferry.record.text;

import org.apiguardian.api.API;

/** Dates and times of day as value text, in ASCII, without a String in between. */
@API(status = API.Status.INTERNAL)
public final class TemporalDigits {

    private TemporalDigits() {}

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
