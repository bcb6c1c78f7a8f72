package org.orderlyferry.office.xbase;

import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/**
 * A field of an xBase table.
 *
 * @param name at most ten characters
 * @param type C text, N and F decimal digits, D date, L truth, M memo; of later kinds I and + whole numbers, B and O
 *     doubles, Y money, T and @ a date with a time, V text and Q bytes of varying length, 0 the flags that say which
 *     others are null
 * @param length bytes of each record
 * @param decimals digits behind the point
 * @param nullable whether a bit of the flags says that it is null
 */
record XbaseField(String name, char type, int length, int decimals, boolean nullable) {

    /** The field in which each record says which of its fields are null. */
    static final char FLAGS = '0';

    private static final int MEMO_DIGITS = 10;
    private static final int INTEGER_DIGITS = 9;
    private static final int BIGINT_DIGITS = 18;
    private static final int MONEY_DIGITS = 19;
    private static final int MONEY_SCALE = 4;

    /** A field that has no null but an empty one. */
    XbaseField(String name, char type, int length, int decimals) {
        this(name, type, length, decimals, false);
    }

    XbaseField withName(String other) {
        return new XbaseField(other, type, length, decimals, nullable);
    }

    /** How many bytes a type's values have, where there is only one way. */
    boolean hasItsLength() {
        return switch (type) {
            case 'I', '+' -> length == Integer.BYTES;
            case 'O', 'Y', 'T', '@' -> length == Long.BYTES;
            // digits, around which some programs leave room
            case 'D' -> length >= Long.BYTES;
            case 'B' -> length == Long.BYTES || length == MEMO_DIGITS;
            case 'L' -> length == 1;
            case 'M', 'G', 'P' -> length == Integer.BYTES || length == MEMO_DIGITS;
            default -> length > 0;
        };
    }

    /** Whether the record holds the number of a memo, and not the value. */
    boolean isMemo() {
        return type == 'M' || type == 'G' || type == 'P' || type == 'B' && length == MEMO_DIGITS;
    }

    /** Whether a bit of the flags says that the value ends before its field does. */
    boolean isVarying() {
        return type == 'V' || type == 'Q';
    }

    /** The logical type that holds all its values. */
    LogicalType logical() {
        return switch (type) {
            case 'N', 'F' -> number();
            case 'D' -> LogicalType.DATE;
            case 'L' -> LogicalType.BOOLEAN;
            case 'I', '+' -> LogicalType.INTEGER;
            case 'O' -> LogicalType.DOUBLE;
            case 'B' -> isMemo() ? LogicalType.BLOB : LogicalType.DOUBLE;
            case 'Y' -> LogicalType.decimal(MONEY_DIGITS, MONEY_SCALE);
            case 'T', '@' -> LogicalType.of(TypeName.TIMESTAMP, 3);
            case 'M' -> LogicalType.CLOB;
            case 'G', 'P' -> LogicalType.BLOB;
            case 'Q' -> LogicalType.of(TypeName.VARBINARY, length);
            default -> LogicalType.varchar(length);
        };
    }

    private LogicalType number() {
        if (decimals > 0) {
            return LogicalType.decimal(length, decimals);
        }
        return length <= INTEGER_DIGITS
                ? LogicalType.INTEGER
                : length <= BIGINT_DIGITS ? LogicalType.BIGINT : LogicalType.decimal(length, 0);
    }
}
