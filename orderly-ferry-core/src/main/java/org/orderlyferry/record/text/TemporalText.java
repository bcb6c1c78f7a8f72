package org.orderlyferry.record.text;

import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/**
 * Dates and times of day after ISO 8601 as XML Schema writes them: years of at least four digits with no plus sign,
 * seconds always, no zeros at a fraction's end; instants in UTC.
 */
final class TemporalText extends ValueText {

    private final boolean dated;
    private final boolean timed;
    private final boolean zoned;
    private final int fractionDigits;

    TemporalText(LogicalType type) {
        super(type);
        this.timed = type.name().isTimed();
        this.dated = type.name() != TypeName.TIME;
        this.zoned = type.name() == TypeName.TIMESTAMP_WITH_TIME_ZONE;
        this.fractionDigits = type.isSized() ? type.size() : 9;
    }

    @Override
    public boolean isProper(byte[] b, int start, int end) {
        int i = start;
        if (dated) {
            i = dateEnd(b, start, end);
            if (i < 0 || timed && (i == end || b[i++] != 'T')) {
                return false;
            }
        }
        if (timed) {
            i = timeEnd(b, i, end);
            if (i < 0 || zoned && (i == end || b[i++] != 'Z')) {
                return false;
            }
        }
        return i == end;
    }

    /** Where the date that begins at i ends, or -1 if there is none. */
    private static int dateEnd(byte[] b, int start, int end) {
        int i = start < end && b[start] == '-' ? start + 1 : start;
        int year = 0;
        int first = i;
        while (i < end && isDigit(b[i])) {
            year = year * 10 + (b[i++] - '0');
        }
        int digits = i - first;
        if (digits < 4 || digits > 9 || digits > 4 && b[first] == '0' || first > start && year == 0) {
            return -1;
        }
        if (i + 6 > end || b[i] != '-' || b[i + 3] != '-') {
            return -1;
        }
        int month = TemporalDigits.two(b, i + 1);
        int day = TemporalDigits.two(b, i + 4);
        return month >= 1
                        && month <= 12
                        && day >= 1
                        && day <= TemporalDigits.daysIn(first > start ? -year : year, month)
                ? i + 6
                : -1;
    }

    private int timeEnd(byte[] b, int start, int end) {
        if (start + 8 > end || b[start + 2] != ':' || b[start + 5] != ':') {
            return -1;
        }
        int hour = TemporalDigits.two(b, start);
        int minute = TemporalDigits.two(b, start + 3);
        int second = TemporalDigits.two(b, start + 6);
        if (hour < 0 || hour > 23 || minute < 0 || minute > 59 || second < 0 || second > 59) {
            return -1;
        }
        int i = start + 8;
        if (i < end && b[i] == '.') {
            int first = ++i;
            while (i < end && isDigit(b[i])) {
                i++;
            }
            if (i == first || b[i - 1] == '0' || i - first > fractionDigits) {
                return -1;
            }
        }
        return i;
    }

    @Override
    public String toProper(String text) throws InvalidValueException {
        String iso = text.strip();
        if (timed && dated) {
            iso = iso.replaceFirst("(?<=\\d)[ t](?=\\d)", "T");
        }
        try {
            return switch (type().name()) {
                case DATE -> JavaValues.text(JavaValues.date(iso));
                case TIME -> JavaValues.text(fits(LocalTime.parse(iso)));
                case TIMESTAMP -> {
                    LocalDateTime value = JavaValues.timestamp(iso);
                    fits(value.toLocalTime());
                    yield JavaValues.text(value);
                }
                default -> {
                    OffsetDateTime value = JavaValues.instant(iso);
                    fits(value.toLocalTime());
                    yield JavaValues.text(value);
                }
            };
        } catch (DateTimeException e) {
            throw isNot();
        }
    }

    private LocalTime fits(LocalTime time) throws InvalidValueException {
        long unit = 1;
        for (int digit = fractionDigits; digit < 9; digit++) {
            unit *= 10;
        }
        if (time.getNano() % unit != 0) {
            throw new InvalidValueException(
                    "has more than " + fractionDigits + " digits of a second's fraction, the column is " + type());
        }
        return time;
    }
}
