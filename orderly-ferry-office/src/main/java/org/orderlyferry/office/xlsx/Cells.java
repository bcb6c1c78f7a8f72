package org.orderlyferry.office.xlsx;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.util.regex.Pattern;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.office.sheet.CellKind;
import org.orderlyferry.office.sheet.CellNumbers;
import org.orderlyferry.record.text.JavaValues;

/** Cells' values as value text. */
final class Cells {

    private static final Pattern NUMBER = Pattern.compile("[-+]?([0-9]+\\.?[0-9]*|\\.[0-9]+)([eE][-+]?[0-9]{1,5})?");

    /** What a formula says that can't be computed; of the kind of a result, the library says no more than that it is a text. */
    private static final Pattern ERROR = Pattern.compile(
            "#(N/A|NULL!|DIV/0!|VALUE!|REF!|NAME\\?|NUM!|GETTING_DATA|SPILL!|CALC!|FIELD!|BLOCKED!|UNKNOWN!|CONNECT!|BUSY!|PYTHON!|EXTERNAL!|TIMEOUT!)");

    private Cells() {}

    static CellKind kind(Cell cell) {
        if (cell == null || cell.getType() == CellType.EMPTY) {
            return CellKind.NOTHING;
        }
        return switch (cell.getType()) {
            case BOOLEAN -> CellKind.TRUTH;
            case NUMBER -> numberKind(cell);
            // blanks around a number keep the library from taking it for one
            case ERROR -> isNumber(stripped(cell)) ? numberKind(cell) : CellKind.ERROR;
            case FORMULA -> resultKind(cell);
            default -> CellKind.TEXT;
        };
    }

    /**
     * The kind of a formula's result, and of a text that stands in the sheet itself, with a formula or without one. A text
     * of digits stays one: the library has made numbers and truth values of what the file says are some, and of nothing else.
     * A formula without a result is no empty cell: somebody sees a value there.
     */
    private static CellKind resultKind(Cell cell) {
        if (cell.getValue() instanceof BigDecimal) {
            return numberKind(cell);
        } else if (cell.getValue() instanceof Boolean) {
            return CellKind.TRUTH;
        } else if (cell.getRawValue() == null) {
            return CellKind.ERROR;
        } else if (cell.getValue() == null && isNumber(stripped(cell))) {
            // with blanks around it
            return numberKind(cell);
        }
        return ERROR.matcher(cell.getRawValue()).matches() ? CellKind.ERROR : CellKind.TEXT;
    }

    private static String stripped(Cell cell) {
        return cell.getRawValue() == null ? "" : cell.getRawValue().strip();
    }

    private static boolean isNumber(String text) {
        return text != null && NUMBER.matcher(text).matches();
    }

    /** A number is a date by nothing but the way it is shown. */
    private static CellKind numberKind(Cell cell) {
        String format = cell.getDataFormatString();
        return format == null ? CellKind.NUMBER : CellNumbers.kind(number(cell), format);
    }

    /**
     * The value text for a column of a type; what doesn't fit it is told when the value is checked.
     *
     * @throws ArithmeticException for a number outside of what spreadsheets count with
     * @throws DateTimeException for a day or time outside of the calendar
     */
    static String text(Cell cell, CellKind kind, LogicalType type, boolean from1904) {
        return switch (kind) {
            case TRUTH -> Boolean.toString(isTrue(cell));
            case NUMBER, DAY, TIME, MOMENT ->
                isPlain(stripped(cell), type) ? stripped(cell) : number(cell, kind, type, from1904);
            default -> XString.back(cell.getType() == CellType.FORMULA ? cell.getRawValue() : cell.getText());
        };
    }

    /** Whether a number's text is its value text as it stands: few digits, no exponent, no zero that says nothing. */
    private static boolean isPlain(String raw, LogicalType type) {
        int length = raw.length();
        if (!type.name().isExactNumber() || length == 0 || length > 15) {
            return false;
        }
        int point = -1;
        for (int i = 0; i < length; i++) {
            char c = raw.charAt(i);
            if (c == '.' && point < 0) {
                point = i;
            } else if (c < '0' || c > '9') {
                return false;
            }
        }
        boolean leading = raw.charAt(0) == '0' && length > 1 && point != 1;
        boolean trailing = point >= 0 && (point == 0 || raw.charAt(length - 1) == '0' || point == length - 1);
        return !leading && !trailing;
    }

    private static boolean isTrue(Cell cell) {
        return cell.getValue() instanceof Boolean made ? made : "1".equals(cell.getRawValue());
    }

    private static String number(Cell cell, CellKind kind, LogicalType type, boolean from1904) {
        return switch (type.name()) {
            case REAL -> JavaValues.text(Float.parseFloat(number(cell).toString()));
            case DOUBLE -> JavaValues.text(Double.parseDouble(stripped(cell)));
            default -> CellNumbers.text(number(cell), kind, type, from1904);
        };
    }

    /** The number that a person sees. */
    private static BigDecimal number(Cell cell) {
        // the library has made one already, but not of a formula's result
        return CellNumbers.seen(cell.getValue() instanceof BigDecimal made ? made : new BigDecimal(stripped(cell)));
    }
}
