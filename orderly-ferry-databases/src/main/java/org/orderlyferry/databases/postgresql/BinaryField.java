package org.orderlyferry.databases.postgresql;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.Digits;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.record.text.TemporalDigits;
import org.orderlyferry.record.text.Utf8;

/**
 * Reads a field of PostgreSQL's binary COPY format ("COPY", section "Binary Format", and the {@code send} functions of
 * its types) into value text. Immutable.
 */
abstract class BinaryField {

    private static final int NUMERIC_NAN = 0xC000;
    private static final int NUMERIC_NEGATIVE = 0x4000;
    private static final int DIGITS_IN_GROUP = 4;
    static final long DAY = 86_400_000_000L;
    /** Days from 1970-01-01, where Java counts from, to 2000-01-01, where PostgreSQL does. */
    static final long EPOCH = 10_957;

    private static final VarHandle SHORTS = MethodHandles.byteArrayViewVarHandle(short[].class, ByteOrder.BIG_ENDIAN);
    private static final VarHandle INTS = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.BIG_ENDIAN);
    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.BIG_ENDIAN);

    /** The longest date and time with all its parts, and some more. */
    private static final int LONGEST_TIME = 48;

    private static final int LONGEST_SHOWN = 60;

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

    /** Whether a column's values are texts of any characters. */
    static boolean isAnyText(ColumnDefinition column) {
        TypeName type = column.type().name();
        return (type.isText() || type == TypeName.JSON || type == TypeName.XML)
                && column.enumeration().isEmpty();
    }

    /**
     * The field of a column.
     *
     * @param encoded whether the server sees to it that texts are some
     */
    static BinaryField of(ColumnDefinition column, boolean encoded) {
        if (!encoded && isAnyText(column)) {
            return new Unproven();
        }
        if (!hasOwn(column)) {
            return column.type().name() == TypeName.ARRAY ? new ArrayCells() : new Raw();
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
            case TIMESTAMP -> new Timestamp(false);
            case TIMESTAMP_WITH_TIME_ZONE -> new Timestamp(true);
            case UUID -> new Uuid();
            default -> new Raw();
        };
    }

    private static long integer(byte[] b, int start, int length) {
        return switch (length) {
            case Integer.BYTES -> (int) INTS.get(b, start);
            case Long.BYTES -> (long) LONGS.get(b, start);
            case Short.BYTES -> (short) SHORTS.get(b, start);
            default -> throw new IllegalArgumentException("a number of " + length + " bytes");
        };
    }

    private static int unsigned(byte[] b, int start) {
        return (short) SHORTS.get(b, start) & 0xFFFF;
    }

    private static final class Raw extends BinaryField {
        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) {
            batch.add(b, start, start + length);
        }
    }

    /** What is a text, if its bytes are some. */
    private static final class Unproven extends BinaryField {
        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) throws InvalidValueException {
            if (Utf8.firstInvalid(b, start, start + length) >= 0) {
                throw new InvalidValueException(
                        "holds bytes that are no text in UTF-8, and the database, which is of the"
                                + " encoding SQL_ASCII, doesn't say what they are");
            }
            batch.add(b, start, start + length);
        }
    }

    /** Bytes that are no text, so that a person can read them. */
    static String shown(byte[] b, int start, int length) {
        StringBuilder shown = new StringBuilder();
        for (int i = start; i < start + Math.min(length, LONGEST_SHOWN); i++) {
            if (b[i] >= ' ') {
                shown.append((char) b[i]);
            } else {
                shown.append(String.format(Locale.ROOT, "\\x%02X", b[i]));
            }
        }
        return shown.toString();
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
            batch.reserve(JavaValues.DOUBLE_ROOM);
            double value = java.lang.Double.longBitsToDouble(integer(b, start, length));
            batch.addUpTo(JavaValues.write(value, batch.bytes(), batch.size()));
        }
    }

    /** Groups of four decimal digits, with the weight of the first and the number of digits behind the point. */
    private static final class Numeric extends BinaryField {

        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) throws InvalidValueException {
            int groups = unsigned(b, start);
            int weight = (short) unsigned(b, start + 2);
            int sign = unsigned(b, start + 4);
            int scale = unsigned(b, start + 6);
            if ((sign & NUMERIC_NAN) == NUMERIC_NAN) {
                throw InvalidValueException.outOfRange("is no decimal number that another system could hold");
            }
            batch.reserve((Math.max(0, weight) + 2) * DIGITS_IN_GROUP + scale + 3 + DIGITS_IN_GROUP);
            byte[] text = batch.bytes();
            int at = batch.size();
            if (sign == NUMERIC_NEGATIVE) {
                text[at++] = '-';
            }
            int whole = at;
            for (int i = 0; i <= weight; i++) {
                int group = i < groups ? unsigned(b, start + 8 + 2 * i) : 0;
                if (at > whole) {
                    at = group(group, text, at);
                } else if (group > 0) {
                    at = Digits.write(group, text, at);
                }
            }
            if (at == whole) {
                text[at++] = '0';
            }
            if (scale > 0) {
                text[at++] = '.';
                int end = at + scale;
                for (int i = weight + 1; at < end; i++) {
                    // the last group may go beyond the scale, where the next value is written over it
                    at = group(i >= 0 && i < groups ? unsigned(b, start + 8 + 2 * i) : 0, text, at);
                }
                at = end;
            }
            batch.addUpTo(at);
        }

        private static int group(int group, byte[] text, int at) {
            int hundreds = group / 100;
            Digits.two(hundreds, text, at);
            Digits.two(group - hundreds * 100, text, at + 2);
            return at + DIGITS_IN_GROUP;
        }
    }

    private static final class Date extends BinaryField {
        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) throws InvalidValueException {
            long days = integer(b, start, length);
            if (days == Integer.MAX_VALUE || days == Integer.MIN_VALUE) {
                throw InvalidValueException.outOfRange("is no date that another system could hold");
            }
            batch.reserve(LONGEST_TIME);
            batch.addUpTo(TemporalDigits.date(days + EPOCH, batch.bytes(), batch.size()));
        }
    }

    private static final class Time extends BinaryField {
        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) throws InvalidValueException {
            long micros = integer(b, start, length);
            if (micros == DAY) {
                throw PostgresCells.lateMidnight();
            }
            batch.reserve(LONGEST_TIME);
            batch.addUpTo(TemporalDigits.time(micros, batch.bytes(), batch.size()));
        }
    }

    private static final class Timestamp extends BinaryField {
        private final boolean utc;

        Timestamp(boolean utc) {
            this.utc = utc;
        }

        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) throws InvalidValueException {
            long micros = integer(b, start, length);
            if (micros == Long.MAX_VALUE || micros == Long.MIN_VALUE) {
                throw InvalidValueException.outOfRange("is no date that another system could hold");
            }
            batch.reserve(LONGEST_TIME);
            byte[] text = batch.bytes();
            long days = Math.floorDiv(micros, DAY);
            int at = TemporalDigits.date(days + EPOCH, text, batch.size());
            text[at++] = 'T';
            at = TemporalDigits.time(micros - days * DAY, text, at);
            if (utc) {
                text[at++] = 'Z';
            }
            batch.addUpTo(at);
        }
    }

    private static final class Uuid extends BinaryField {
        private static final byte[] HEX = "0123456789abcdef".getBytes(StandardCharsets.US_ASCII);

        @Override
        void read(byte[] b, int start, int length, RecordBatch batch) {
            batch.reserve(36);
            byte[] text = batch.bytes();
            int at = batch.size();
            for (int i = 0; i < length; i++) {
                if (i == 4 || i == 6 || i == 8 || i == 10) {
                    text[at++] = '-';
                }
                text[at++] = HEX[b[start + i] >> 4 & 0xF];
                text[at++] = HEX[b[start + i] & 0xF];
            }
            batch.addUpTo(at);
        }
    }
}
