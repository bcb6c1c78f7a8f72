package org.orderlyferry.databases.postgresql;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Optional;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.text.TemporalDigits;

/**
 * Puts value text into a field of PostgreSQL's binary COPY format, as the {@code recv} functions of its types take it: the
 * other way round than {@link BinaryField}. Only texts in their usual form are known here. What to make of any other is left
 * to the server, which takes it as text. Immutable.
 */
abstract class SentField {

    /** What {@link #put} gives for a text that is better sent as such. */
    static final int ODD = -1;

    /** A field takes so many bytes more than its text, at most. */
    static final int MORE = 24;

    private static final VarHandle SHORTS = MethodHandles.byteArrayViewVarHandle(short[].class, ByteOrder.BIG_ENDIAN);
    private static final VarHandle INTS = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.BIG_ENDIAN);
    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.BIG_ENDIAN);

    /**
     * Puts a value without its length.
     *
     * @param to with room for the text's length and {@link #MORE} bytes
     * @return where it ends, or {@link #ODD}
     */
    abstract int put(byte[] b, int start, int end, byte[] to, int at);

    /** Whether the bytes go as they are, so that a huge value can go in pieces. */
    boolean isRaw() {
        return false;
    }

    /**
     * The field for a column's values.
     *
     * @param type the object identifier of the type that the column has in the target
     * @param enumerated whether that is an enumeration
     * @return empty if such values aren't known here
     */
    static Optional<SentField> of(ColumnDefinition column, long type, boolean enumerated) {
        TypeName name = column.type().name();
        if (enumerated) {
            return name.isText() ? Optional.of(new Raw()) : Optional.empty();
        }
        return Optional.ofNullable(
                switch ((int) type) {
                    case 16 -> name == TypeName.BOOLEAN ? new Truth() : null;
                    case 17 -> name.isBinary() ? new Raw() : null;
                    case 20 -> isWhole(name) ? new Whole(Long.BYTES) : null;
                    case 21 -> isWhole(name) ? new Whole(Short.BYTES) : null;
                    case 23 -> isWhole(name) ? new Whole(Integer.BYTES) : null;
                    case 25, 1042, 1043 -> name.isText() ? new Raw() : null;
                    case 114 -> name == TypeName.JSON ? new Raw() : null;
                    case 700 -> name == TypeName.REAL ? new SentFloating(true) : null;
                    case 701 -> name == TypeName.DOUBLE ? new SentFloating(false) : null;
                    case 1082 -> name == TypeName.DATE ? new Date() : null;
                    case 1083 -> name == TypeName.TIME ? new Time() : null;
                    case 1114 -> name == TypeName.TIMESTAMP ? new Timestamp(false) : null;
                    case 1184 -> name == TypeName.TIMESTAMP_WITH_TIME_ZONE ? new Timestamp(true) : null;
                    case 1700 -> name == TypeName.DECIMAL || isWhole(name) ? new Numeric() : null;
                    case 2950 -> name == TypeName.UUID ? new Uuid() : null;
                    case 3802 -> name == TypeName.JSON ? new Jsonb() : null;
                    default -> null;
                });
    }

    private static boolean isWhole(TypeName name) {
        return name == TypeName.SMALLINT || name == TypeName.INTEGER || name == TypeName.BIGINT;
    }

    static boolean isDigit(byte c) {
        return c >= '0' && c <= '9';
    }

    /** Where the digits that begin there end. */
    static int digits(byte[] b, int start, int end) {
        int i = start;
        while (i < end && isDigit(b[i])) {
            i++;
        }
        return i;
    }

    static int number(byte[] to, int at, long value) {
        LONGS.set(to, at, value);
        return at + Long.BYTES;
    }

    static int number(byte[] to, int at, int value) {
        INTS.set(to, at, value);
        return at + Integer.BYTES;
    }

    static int number(byte[] to, int at, short value) {
        SHORTS.set(to, at, value);
        return at + Short.BYTES;
    }

    private static final class Raw extends SentField {
        @Override
        int put(byte[] b, int start, int end, byte[] to, int at) {
            System.arraycopy(b, start, to, at, end - start);
            return at + end - start;
        }

        @Override
        boolean isRaw() {
            return true;
        }
    }

    /** The text behind the number of its form. */
    private static final class Jsonb extends SentField {
        @Override
        int put(byte[] b, int start, int end, byte[] to, int at) {
            to[at] = 1;
            System.arraycopy(b, start, to, at + 1, end - start);
            return at + 1 + end - start;
        }
    }

    private static final class Truth extends SentField {
        @Override
        int put(byte[] b, int start, int end, byte[] to, int at) {
            boolean yes = end - start == 4 && b[start] == 't' && b[start + 1] == 'r' && b[start + 2] == 'u';
            boolean no = end - start == 5 && b[start] == 'f' && b[start + 1] == 'a' && b[start + 2] == 'l';
            if (!yes && !no || b[end - 1] != 'e') {
                return ODD;
            }
            to[at] = (byte) (yes ? 1 : 0);
            return at + 1;
        }
    }

    private static final class Whole extends SentField {
        /** Any number of so many digits is a long. */
        private static final int SURE_DIGITS = 18;

        private final int width;

        Whole(int width) {
            this.width = width;
        }

        @Override
        int put(byte[] b, int start, int end, byte[] to, int at) {
            boolean negative = start < end && b[start] == '-';
            int first = negative ? start + 1 : start;
            if (first == end || end - first > SURE_DIGITS) {
                return ODD;
            }
            long value = 0;
            for (int i = first; i < end; i++) {
                if (!isDigit(b[i])) {
                    return ODD;
                }
                value = value * 10 + (b[i] - '0');
            }
            value = negative ? -value : value;
            if (width == Long.BYTES) {
                return number(to, at, value);
            } else if (width == Integer.BYTES) {
                return value == (int) value ? number(to, at, (int) value) : ODD;
            }
            return value == (short) value ? number(to, at, (short) value) : ODD;
        }
    }

    /** Groups of four decimal digits, with the weight of the first and the number of digits behind the point. */
    private static final class Numeric extends SentField {

        /** Digits that the binary form has for sure; text may have ten times as many. */
        private static final int MOST_DIGITS = 10_000;

        private static final int IN_GROUP = 4;
        private static final short NEGATIVE = 0x4000;

        @Override
        int put(byte[] b, int start, int end, byte[] to, int at) {
            boolean negative = start < end && b[start] == '-';
            int first = negative ? start + 1 : start;
            int point = digits(b, first, end);
            int fraction = point < end && b[point] == '.' ? point + 1 : point;
            if (point == first
                    || end - first > MOST_DIGITS
                    || digits(b, fraction, end) != end
                    || fraction > point && fraction == end) {
                return ODD;
            }
            while (first < point && b[first] == '0') {
                first++;
            }
            int groupsBefore = (point - first + IN_GROUP - 1) / IN_GROUP;
            int groups = groupsBefore + (end - fraction + IN_GROUP - 1) / IN_GROUP;
            int out = number(to, at, (short) groups);
            out = number(to, out, (short) (groupsBefore - 1));
            out = number(to, out, negative ? NEGATIVE : (short) 0);
            out = number(to, out, (short) (end - fraction));
            for (int group = groupsBefore; group > 0; group--) {
                out = number(
                        to, out, group(b, Math.max(first, point - group * IN_GROUP), point - (group - 1) * IN_GROUP));
            }
            for (int from = fraction; from < end; from += IN_GROUP) {
                int till = Math.min(end, from + IN_GROUP);
                int group = group(b, from, till);
                for (int missing = till; missing < from + IN_GROUP; missing++) {
                    group *= 10;
                }
                out = number(to, out, (short) group);
            }
            return out;
        }

        private static short group(byte[] b, int start, int end) {
            int value = 0;
            for (int i = start; i < end; i++) {
                value = value * 10 + (b[i] - '0');
            }
            return (short) value;
        }
    }

    /** Days since 2000-01-01. */
    private static final class Date extends SentField {
        @Override
        int put(byte[] b, int start, int end, byte[] to, int at) {
            long days = TemporalDigits.days(b, start, end);
            return days == TemporalDigits.NONE ? ODD : number(to, at, (int) (days - BinaryField.EPOCH));
        }
    }

    /** Microseconds since midnight. */
    private static final class Time extends SentField {
        @Override
        int put(byte[] b, int start, int end, byte[] to, int at) {
            long micros = TemporalDigits.micros(b, start, end);
            return micros == TemporalDigits.NONE ? ODD : number(to, at, micros);
        }
    }

    /** Microseconds since 2000-01-01. */
    private static final class Timestamp extends SentField {
        private static final int DATE = 10;

        private final boolean utc;

        Timestamp(boolean utc) {
            this.utc = utc;
        }

        @Override
        int put(byte[] b, int start, int end, byte[] to, int at) {
            int last = utc ? end - 1 : end;
            if (last <= start + DATE || b[start + DATE] != 'T' || utc && b[last] != 'Z') {
                return ODD;
            }
            long days = TemporalDigits.days(b, start, start + DATE);
            long micros = TemporalDigits.micros(b, start + DATE + 1, last);
            return days == TemporalDigits.NONE || micros == TemporalDigits.NONE
                    ? ODD
                    : number(to, at, (days - BinaryField.EPOCH) * BinaryField.DAY + micros);
        }
    }

    private static final class Uuid extends SentField {
        private static final int LENGTH = 36;

        @Override
        int put(byte[] b, int start, int end, byte[] to, int at) {
            if (end - start != LENGTH) {
                return ODD;
            }
            int out = at;
            for (int i = 0; i < LENGTH; i++) {
                if (i == 8 || i == 13 || i == 18 || i == 23) {
                    if (b[start + i] != '-') {
                        return ODD;
                    }
                } else {
                    int high = Character.digit(b[start + i], 16);
                    int low = Character.digit(b[start + ++i], 16);
                    if (high < 0 || low < 0) {
                        return ODD;
                    }
                    to[out++] = (byte) (high << 4 | low);
                }
            }
            return out;
        }
    }
}
