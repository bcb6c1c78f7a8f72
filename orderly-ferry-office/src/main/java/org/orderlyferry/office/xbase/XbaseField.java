package org.orderlyferry.office.xbase;

import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/**
 * A field of an xBase table.
 *
 * @param name at most ten characters
 * @param type C text, N and F decimal digits, D date, L truth, M memo; of later kinds I and + whole numbers, B and O
 *     doubles, Y money, T and @ a date with a time
 * @param length bytes of each record
 * @param decimals digits behind the point
 */
record XbaseField(String name, char type, int length, int decimals) {

    private static final int INTEGER_DIGITS = 9;
    private static final int BIGINT_DIGITS = 18;
    private static final int MONEY_DIGITS = 19;
    private static final int MONEY_SCALE = 4;

    /** The logical type that holds all its values. */
    LogicalType logical() {
        return switch (type) {
            case 'N', 'F' -> number();
            case 'D' -> LogicalType.DATE;
            case 'L' -> LogicalType.BOOLEAN;
            case 'I', '+' -> LogicalType.INTEGER;
            case 'B', 'O' -> LogicalType.DOUBLE;
            case 'Y' -> LogicalType.decimal(MONEY_DIGITS, MONEY_SCALE);
            case 'T', '@' -> LogicalType.of(TypeName.TIMESTAMP, 3);
            case 'M' -> LogicalType.CLOB;
            case 'G', 'P' -> LogicalType.BLOB;
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
