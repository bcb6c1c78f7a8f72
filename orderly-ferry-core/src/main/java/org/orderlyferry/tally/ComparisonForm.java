package org.orderlyferry.tally;

import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.text.FirstByte;

/**
 * The rules by which two values count as equal, all in this one place: values are brought into the same form, and forms
 * are compared by bytes.
 */
public enum ComparisonForm {
    /** Equal to the byte. */
    EXACT("equal to the byte") {
        @Override
        void apply(Cell cell) {
            // as it is
        }
    },
    /** Blanks at the end don't count: CHARACTER(n) is filled up with them by some systems and not by others. */
    WITHOUT_PADDING(
            "blanks at the end don't count: CHARACTER(n) is filled up with them by some systems and not by others") {
        @Override
        void apply(Cell cell) {
            while (cell.end > cell.start && cell.bytes[cell.end - 1] == ' ') {
                cell.end--;
            }
        }
    },
    /** Zeros at the end of a fraction don't count: 12.50 is 12.5, and 12.0 is 12. */
    NUMBER("zeros at the end of a fraction don't count: 12.50 is 12.5, and 12.0 is 12") {
        @Override
        void apply(Cell cell) {
            if (cell.end == cell.start || cell.bytes[cell.end - 1] != '0') {
                return;
            }
            int point = FirstByte.of((byte) '.', cell.bytes, cell.start, cell.end);
            if (point < cell.end) {
                while (cell.bytes[cell.end - 1] == '0') {
                    cell.end--;
                }
                if (cell.end == point + 1) {
                    cell.end = point;
                }
            }
        }
    },
    /** ISO/IEC 9075 has -0.0 equal to 0.0; a system that keeps no sign of zero still holds the same number. */
    FLOATING("-0.0 equals 0.0; all else is equal if it is the same shortest text, and so the same bits") {
        @Override
        void apply(Cell cell) {
            // hardly ever, which the length alone tells
            if (cell.end - cell.start == MINUS_ZERO.length
                    && Arrays.equals(cell.bytes, cell.start, cell.end, MINUS_ZERO, 0, MINUS_ZERO.length)) {
                cell.start++;
            }
        }
    },
    /** A floating point number against an exact one: by the decimal value of the shortest text. */
    NUMBER_OR_FLOATING("a floating point number against an exact one: by the decimal value of the shortest text") {
        @Override
        void apply(Cell cell) {
            String text = cell.text();
            if (!text.equals("NaN") && !text.endsWith("INF")) {
                BigDecimal value = new BigDecimal(text).stripTrailingZeros();
                cell.text(value.signum() == 0 ? "0" : value.toString());
            }
        }
    },
    /** A truth value against a number: 1 is true, 0 is false. */
    TRUTH_OR_NUMBER("1 is true, 0 is false") {
        @Override
        void apply(Cell cell) {
            NUMBER.apply(cell);
            if (cell.end - cell.start == 1) {
                if (cell.bytes[cell.start] == '1') {
                    cell.set(TRUE);
                } else if (cell.bytes[cell.start] == '0') {
                    cell.set(FALSE);
                }
            }
        }
    },
    /** An instant against a time that a system holds in UTC without saying so. */
    INSTANT_OR_UTC("an instant equals a time without zone that is the same in UTC") {
        @Override
        void apply(Cell cell) {
            if (cell.end > cell.start && cell.bytes[cell.end - 1] == 'Z') {
                cell.end--;
            }
        }
    },
    /** ISO/IEC 9075-2 has a date become the midnight with which it begins; some systems have no dates without a time. */
    DAY_OR_MIDNIGHT("a date equals the midnight with which it begins") {
        @Override
        void apply(Cell cell) {
            int from = cell.end - MIDNIGHT.length;
            if (from > cell.start && Arrays.equals(cell.bytes, from, cell.end, MIDNIGHT, 0, MIDNIGHT.length)) {
                cell.end = from;
            }
        }
    },
    /** JSON by what it says: order of keys, blanks and ways to write a number don't count (RFC 8785). */
    JSON("by what it says: order of keys, blanks and ways to write a number don't count (RFC 8785)") {
        @Override
        void apply(Cell cell) {
            try {
                cell.set(CanonicalJson.of(cell.bytes, cell.start, cell.end));
            } catch (IOException e) {
                // Not JSON, so it equals only what is the same to the byte.
                EXACT.apply(cell);
            }
        }
    };

    private static final byte[] MIDNIGHT = "T00:00:00".getBytes(StandardCharsets.US_ASCII);
    private static final byte[] MINUS_ZERO = "-0.0".getBytes(StandardCharsets.US_ASCII);
    private static final byte[] TRUE = "true".getBytes(StandardCharsets.US_ASCII);
    private static final byte[] FALSE = "false".getBytes(StandardCharsets.US_ASCII);

    private final String rule;

    ComparisonForm(String rule) {
        this.rule = rule;
    }

    /** The rule as a sentence, for people. */
    public String rule() {
        return rule;
    }

    /** Whether two values are the same in this form. */
    public boolean areEqual(byte[] one, byte[] other) {
        Cell a = new Cell();
        a.set(one);
        apply(a);
        Cell b = new Cell();
        b.set(other);
        apply(b);
        return Arrays.equals(a.bytes, a.start, a.end, b.bytes, b.start, b.end);
    }

    /** Brings a value into this form. */
    abstract void apply(Cell cell);

    /** The form in which values of one type are compared with each other. */
    public static ComparisonForm of(LogicalType type) {
        return switch (type.name()) {
            case CHARACTER -> WITHOUT_PADDING;
            case SMALLINT, INTEGER, BIGINT, DECIMAL -> NUMBER;
            case REAL, DOUBLE -> FLOATING;
            case JSON, ARRAY -> JSON;
            default -> EXACT;
        };
    }

    /** The form in which values of one type are compared with values of another. */
    public static ComparisonForm between(LogicalType one, LogicalType other) {
        if (either(one, other, TypeName.TIMESTAMP_WITH_TIME_ZONE) && either(one, other, TypeName.TIMESTAMP)) {
            return INSTANT_OR_UTC;
        }
        if (either(one, other, TypeName.DATE) && either(one, other, TypeName.TIMESTAMP)) {
            return DAY_OR_MIDNIGHT;
        }
        ComparisonForm a = of(one);
        ComparisonForm b = of(other);
        if (a == b) {
            return a;
        }
        if (either(one, other, TypeName.BOOLEAN) && (a == NUMBER || b == NUMBER)) {
            return TRUTH_OR_NUMBER;
        }
        if (a == NUMBER && b == FLOATING || a == FLOATING && b == NUMBER) {
            return NUMBER_OR_FLOATING;
        }
        if (one.name().isText() && other.name().isText()) {
            return WITHOUT_PADDING;
        }
        return a == JSON || b == JSON ? JSON : EXACT;
    }

    private static boolean either(LogicalType one, LogicalType other, TypeName name) {
        return one.name() == name || other.name() == name;
    }
}
