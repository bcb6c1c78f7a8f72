package org.orderlyferry.databases.postgresql;

import java.nio.charset.StandardCharsets;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.record.InvalidValueException;
import org.orderlyferry.record.JavaValues;
import org.orderlyferry.record.RecordBatch;

/**
 * Reads a field of PostgreSQL's binary COPY format ("COPY", section "Binary Format", and the {@code send} functions of
 * its types) into value text. One instance serves one reader.
 */
abstract class BinaryField {

    private static final int NUMERIC_NAN = 0xC000;
    private static final int NUMERIC_NEGATIVE = 0x4000;
    private static final int DIGITS_IN_GROUP = 4;
    private static final long DAY = 86_400_000_000L;
    /** Days from 1970-01-01, where Java counts from, to 2000-01-01, where PostgreSQL does. */
    private static final long EPOCH = 10_957;

    private final byte[] scratch = new byte[64];

    abstract void read(byte[] b, int start, int length, RecordBatch batch) throws InvalidValueException;

    /** Whether a column's own binary form is read; all others are asked for as text. */
    static boolean hasOwn(ColumnDefinition column) {
        String own = column.sourceType();
        return switch (column.type().name()) {
            case BOOLEAN, SMALLINT, INTEGER, REAL, DOUBLE, DATE, UUID -> true;
            case BIGINT -> !own.equals("oid");
            case DECIMAL -> own.startsWith("numeric");
            case TIME -> own.startsWith("time") && !own.endsWith("with time zone");
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE, BLOB -> true;
            case CHARACTER, VARCHAR, CLOB ->
                column.enumeration().isPresent()
                        || own.startsWith("character")
                        || own.equals("text")
                        || own.equals("name")
                        || own.equals("bpchar");
            default -> false;
        };
    }

    static BinaryField of(ColumnDefinition column) {
        if (!hasOwn(column)) {
            return new Raw();
        }
        LogicalType type = column.type();
        return switch (type.name()) {
            case BOOLEAN -> new Truth();
            case SMALLINT, INTEGER, BIGINT -> new Whole();
            case REAL -> new Single();
            case DOUBLE -> new Double();
            case DECIMAL -> new Numeric();
            case DATE -> new Date();
            case TIME -> new Time();
            case TIMESTAMP -> new Timestamp("");
            case TIMESTAMP_WITH_TIME_ZONE -> new Timestamp("Z");
            case UUID -> new Uuid();
            default -> new Raw();
        };
    }

    private static long integer(byte[] b, int start, int length) {
        long value = b[start];
        for (int i = 1; i < length; i++) {
            value = value << 8 | b[start + i] & 0xFF;
        }
        return value;
    }

    private static int unsigned(byte[] b, int start) {
        return (b[start] & 0xFF) << 8 | b[start + 1] & 0xFF;
    }

    private static final class Raw extends BinaryField {
        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) {
            batch.add(b, start, start + length);
        }
    }

    private static final class Truth extends BinaryField {
        private static final byte[] TRUE = "true".getBytes(StandardCharsets.US_ASCII);
        private static final byte[] FALSE = "false".getBytes(StandardCharsets.US_ASCII);

        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) {
            batch.add(b[start] == 1 ? TRUE : FALSE);
        }
    }

    private static final class Whole extends BinaryField {
        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) {
            batch.add(integer(b, start, length));
        }
    }

    private static final class Single extends BinaryField {
        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) {
            batch.add(JavaValues.text(Float.intBitsToFloat((int) integer(b, start, length))));
        }
    }

    private static final class Double extends BinaryField {
        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) {
            batch.add(JavaValues.text(java.lang.Double.longBitsToDouble(integer(b, start, length))));
        }
    }

    /** Groups of four decimal digits, with the weight of the first and the number of digits behind the point. */
    private static final class Numeric extends BinaryField {
        private byte[] text = new byte[128];

        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) throws InvalidValueException {
            int groups = unsigned(b, start);
            int weight = (short) unsigned(b, start + 2);
            int sign = unsigned(b, start + 4);
            int scale = unsigned(b, start + 6);
            if ((sign & NUMERIC_NAN) == NUMERIC_NAN) {
                throw InvalidValueException.outOfRange("is no decimal number that another system could hold");
            }
            int room = (Math.max(0, weight) + 2) * DIGITS_IN_GROUP + scale + 3;
            if (text.length < room) {
                text = new byte[room];
            }
            int at = 0;
            if (sign == NUMERIC_NEGATIVE) {
                text[at++] = '-';
            }
            int whole = at;
            for (int i = 0; i <= weight; i++) {
                int group = i < groups ? unsigned(b, start + 8 + 2 * i) : 0;
                at = group(group, at, at > whole);
            }
            if (at == whole) {
                text[at++] = '0';
            }
            if (scale > 0) {
                text[at++] = '.';
                int end = at + scale;
                for (int i = weight + 1; at < end; i++) {
                    int group = i >= 0 && i < groups ? unsigned(b, start + 8 + 2 * i) : 0;
                    int divisor = 1000;
                    for (int k = 0; k < DIGITS_IN_GROUP && at < end; k++) {
                        text[at++] = (byte) ('0' + group / divisor % 10);
                        divisor /= 10;
                    }
                }
            }
            batch.add(text, 0, at);
        }

        /** Writes a group; without leading zeros if nothing stands before it. */
        private int group(int group, int from, boolean zeros) {
            int at = from;
            boolean shown = zeros;
            for (int divisor = 1000; divisor > 0; divisor /= 10) {
                int digit = group / divisor % 10;
                shown |= digit != 0;
                if (shown) {
                    text[at++] = (byte) ('0' + digit);
                }
            }
            return at;
        }
    }

    private static final class Date extends BinaryField {
        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) throws InvalidValueException {
            long days = integer(b, start, length);
            if (days == Integer.MAX_VALUE || days == Integer.MIN_VALUE) {
                throw InvalidValueException.outOfRange("is no date that another system could hold");
            }
            batch.add(scratch(), 0, date(days, 0));
        }
    }

    private static final class Time extends BinaryField {
        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) {
            batch.add(scratch(), 0, time(integer(b, start, length), 0));
        }
    }

    private static final class Timestamp extends BinaryField {
        private final String zone;

        Timestamp(String zone) {
            this.zone = zone;
        }

        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) throws InvalidValueException {
            long micros = integer(b, start, length);
            if (micros == Long.MAX_VALUE || micros == Long.MIN_VALUE) {
                throw InvalidValueException.outOfRange("is no date that another system could hold");
            }
            int at = date(Math.floorDiv(micros, DAY), 0);
            scratch()[at++] = 'T';
            at = time(Math.floorMod(micros, DAY), at);
            if (!zone.isEmpty()) {
                scratch()[at++] = 'Z';
            }
            batch.add(scratch(), 0, at);
        }
    }

    private static final class Uuid extends BinaryField {
        private static final byte[] HEX = "0123456789abcdef".getBytes(StandardCharsets.US_ASCII);

        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) {
            byte[] text = scratch();
            int at = 0;
            for (int i = 0; i < length; i++) {
                if (i == 4 || i == 6 || i == 8 || i == 10) {
                    text[at++] = '-';
                }
                text[at++] = HEX[b[start + i] >> 4 & 0xF];
                text[at++] = HEX[b[start + i] & 0xF];
            }
            batch.add(text, 0, at);
        }
    }

    final byte[] scratch() {
        return scratch;
    }

    /** Writes a date of the proleptic Gregorian calendar, given as days since 2000-01-01; returns where it ends. */
    final int date(long sinceEpoch, int from) {
        // days since 0000-03-01, so that a leap day is a year's last
        long days = sinceEpoch + EPOCH + 719_468;
        long era = Math.floorDiv(days, 146_097L);
        long dayOfEra = days - era * 146_097;
        long yearOfEra = (dayOfEra - dayOfEra / 1460 + dayOfEra / 36_524 - dayOfEra / 146_096) / 365;
        long dayOfYear = dayOfEra - (365 * yearOfEra + yearOfEra / 4 - yearOfEra / 100);
        long shifted = (5 * dayOfYear + 2) / 153;
        long day = dayOfYear - (153 * shifted + 2) / 5 + 1;
        long month = shifted < 10 ? shifted + 3 : shifted - 9;
        long year = yearOfEra + era * 400 + (month <= 2 ? 1 : 0);
        int at = from;
        if (year < 0) {
            scratch[at++] = '-';
            year = -year;
        }
        at = digits(year, Math.max(4, Long.toString(year).length()), at);
        scratch[at++] = '-';
        at = digits(month, 2, at);
        scratch[at++] = '-';
        return digits(day, 2, at);
    }

    /** Writes a time of day, given in microseconds; returns where it ends. */
    final int time(long micros, int from) {
        int at = digits(micros / 3_600_000_000L, 2, from);
        scratch[at++] = ':';
        at = digits(micros / 60_000_000 % 60, 2, at);
        scratch[at++] = ':';
        at = digits(micros / 1_000_000 % 60, 2, at);
        long fraction = micros % 1_000_000;
        if (fraction > 0) {
            scratch[at++] = '.';
            at = digits(fraction, 6, at);
            while (scratch[at - 1] == '0') {
                at--;
            }
        }
        return at;
    }

    private int digits(long number, int count, int from) {
        long rest = number;
        for (int i = from + count - 1; i >= from; i--) {
            scratch[i] = (byte) ('0' + rest % 10);
            rest /= 10;
        }
        return from + count;
    }
}
