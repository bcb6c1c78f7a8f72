package org.orderlyferry.documents.bson;

import java.time.LocalDate;

/** Milliseconds since 1970 and the value text of their moment in UTC, in bytes. */
final class RawMoments {

    /** What {@link #millis} gives for what it doesn't read. */
    static final long UNREAD = Long.MIN_VALUE;

    private static final long DAY = 86_400_000;

    /** From January 1st of the year 0 to December 31st of 9999: years of four digits. */
    private static final long FIRST_DATED = -62_167_219_200_000L;

    private static final long LAST_DATED = 253_402_300_799_999L;

    private RawMoments() {}

    /** Whether the year of a moment has four digits. */
    static boolean isDated(long millis) {
        return millis >= FIRST_DATED && millis <= LAST_DATED;
    }

    /** Writes a moment whose year has four digits, without the zone. */
    static void write(long millis, GrowingBytes to) {
        long days = Math.floorDiv(millis, DAY);
        int rest = (int) (millis - days * DAY);
        LocalDate date = LocalDate.ofEpochDay(days);
        to.two(date.getYear() / 100);
        to.two(date.getYear() % 100);
        to.add('-');
        to.two(date.getMonthValue());
        to.add('-');
        to.two(date.getDayOfMonth());
        to.add('T');
        to.two(rest / 3_600_000);
        to.add(':');
        to.two(rest / 60_000 % 60);
        to.add(':');
        to.two(rest / 1000 % 60);
        int fraction = rest % 1000;
        if (fraction != 0) {
            to.add('.');
            to.add('0' + fraction / 100);
            if (fraction % 100 != 0) {
                to.add('0' + fraction / 10 % 10);
                if (fraction % 10 != 0) {
                    to.add('0' + fraction % 10);
                }
            }
        }
    }

    /**
     * Reads a moment that is proper value text.
     *
     * @return the milliseconds; {@link #UNREAD} if its year hasn't four digits, or its second has more than three behind its point
     */
    static long millis(byte[] in, int start, int end) {
        int to = end > start && in[end - 1] == 'Z' ? end - 1 : end;
        int length = to - start;
        boolean usual = (length == 19 || length >= 21 && length <= 23 && in[start + 19] == '.')
                && in[start] != '-'
                && in[start + 4] == '-'
                && in[start + 10] == 'T';
        if (!usual) {
            return UNREAD;
        }
        int year = number(in, start, start + 4);
        long days = LocalDate.of(year, number(in, start + 5, start + 7), number(in, start + 8, start + 10))
                .toEpochDay();
        int seconds = (number(in, start + 11, start + 13) * 60 + number(in, start + 14, start + 16)) * 60
                + number(in, start + 17, start + 19);
        int fraction = 0;
        for (int i = 0, at = start + 20; i < 3; i++, at++) {
            fraction = fraction * 10 + (at < to ? in[at] - '0' : 0);
        }
        return days * DAY + seconds * 1000L + fraction;
    }

    private static int number(byte[] in, int start, int end) {
        int number = 0;
        for (int i = start; i < end; i++) {
            number = number * 10 + in[i] - '0';
        }
        return number;
    }
}
