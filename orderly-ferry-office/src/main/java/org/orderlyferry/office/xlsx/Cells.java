package org.orderlyferry.office.xlsx;

import java.math.BigDecimal;
import java.math.MathContext;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Pattern;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.record.text.JavaValues;

/** Cells' values as value text. */
final class Cells {

    /** There are few formats, and many cells. */
    private static final Map<String, Kind> BY_FORMAT = new ConcurrentHashMap<>();

    /** A spreadsheet's numbers are doubles; a text of a milliard zeros was made to do harm. */
    private static final int MOST_PLACES = 1_100;

    private static final MathContext SHOWN = new MathContext(15);
    private static final Pattern NUMBER = Pattern.compile("[-+]?([0-9]+\\.?[0-9]*|\\.[0-9]+)([eE][-+]?[0-9]{1,5})?");

    private Cells() {}

    /** What a cell holds, in the words of the file. */
    enum Kind {
        NOTHING,
        NUMBER,
        DAY,
        TIME,
        MOMENT,
        TRUTH,
        TEXT,
        ERROR
    }

    static Kind kind(Cell cell) {
        if (cell == null || cell.getType() == CellType.EMPTY) {
            return Kind.NOTHING;
        }
        return switch (cell.getType()) {
            case BOOLEAN -> Kind.TRUTH;
            case NUMBER -> numberKind(cell);
            // blanks around a number keep the library from taking it for one
            case ERROR -> isNumber(stripped(cell)) ? numberKind(cell) : Kind.ERROR;
            case FORMULA -> isNumber(cell.getRawValue()) ? numberKind(cell) : formulaKind(cell.getRawValue());
            default -> Kind.TEXT;
        };
    }

    /** A formula without a result is no empty cell: somebody sees a value there. */
    private static Kind formulaKind(String cached) {
        return cached == null ? Kind.ERROR : cached.startsWith("#") ? Kind.ERROR : Kind.TEXT;
    }

    private static String stripped(Cell cell) {
        return cell.getRawValue() == null ? "" : cell.getRawValue().strip();
    }

    private static boolean isNumber(String text) {
        return text != null && NUMBER.matcher(text).matches();
    }

    /** A number is a date by nothing but the way it is shown. */
    private static Kind numberKind(Cell cell) {
        String format = cell.getDataFormatString();
        if (format == null) {
            return Kind.NUMBER;
        }
        Kind kind = BY_FORMAT.computeIfAbsent(format, Cells::kindOf);
        return switch (kind) {
            // what isn't shown is there all the same
            case DAY -> isWhole(number(cell)) ? Kind.DAY : Kind.MOMENT;
            case TIME -> number(cell).compareTo(BigDecimal.ONE) < 0 ? Kind.TIME : Kind.NUMBER;
            default -> kind;
        };
    }

    private static boolean isWhole(BigDecimal number) {
        return number.scale() <= 0 || number.stripTrailingZeros().scale() <= 0;
    }

    private static Kind kindOf(String format) {
        String bare = format.replaceAll("\"[^\"]*\"|\\[[^\\]]*\\]|\\\\.", "").toLowerCase(Locale.ROOT);
        if (bare.contains("general") || bare.startsWith("@")) {
            return Kind.NUMBER;
        }
        boolean day = bare.contains("y") || bare.contains("d");
        boolean time = bare.contains("h") || bare.contains("s");
        return day && time ? Kind.MOMENT : day ? Kind.DAY : time ? Kind.TIME : Kind.NUMBER;
    }

    /**
     * The value text for a column of a type; what doesn't fit it is told when the value is checked.
     *
     * @throws ArithmeticException for a number outside of what spreadsheets count with
     * @throws DateTimeException for a day or time outside of the calendar
     */
    static String text(Cell cell, Kind kind, LogicalType type, boolean from1904) {
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
        return cell.getType() == CellType.BOOLEAN ? cell.asBoolean() : "1".equals(cell.getRawValue());
    }

    private static String number(Cell cell, Kind kind, LogicalType type, boolean from1904) {
        return switch (type.name()) {
            case REAL -> JavaValues.text(Float.parseFloat(number(cell).toString()));
            case DOUBLE -> JavaValues.text(Double.parseDouble(stripped(cell)));
            default -> number(number(cell), kind, type, from1904);
        };
    }

    /**
     * The number that a person sees. Spreadsheet programs count with doubles, of which they show 15 digits and write 17:
     * where the 15 digits are the same double, they are the number.
     */
    private static BigDecimal number(Cell cell) {
        // the library has made one already, but not of a formula's result
        BigDecimal written = cell.getValue() instanceof BigDecimal made ? made : new BigDecimal(stripped(cell));
        if (written.precision() <= SHOWN.getPrecision()) {
            return written;
        }
        BigDecimal shown = written.round(SHOWN);
        return shown.doubleValue() == written.doubleValue() ? shown : written;
    }

    private static String number(BigDecimal number, Kind kind, LogicalType type, boolean from1904) {
        if (Math.abs((long) number.scale()) > MOST_PLACES) {
            throw new ArithmeticException("its exponent is outside of a double's");
        }
        return switch (type.name()) {
            case SMALLINT, INTEGER, BIGINT, DECIMAL -> plain(number);
            case BOOLEAN -> number.signum() == 0 ? "false" : "true";
            case DATE -> JavaValues.text(day(number, from1904));
            case TIME -> JavaValues.text(time(number, from1904));
            case TIMESTAMP -> JavaValues.text(Serials.moment(number, from1904));
            case TIMESTAMP_WITH_TIME_ZONE -> JavaValues.text(Serials.moment(number, from1904)) + 'Z';
            default -> shown(number, kind, from1904);
        };
    }

    private static LocalDate day(BigDecimal number, boolean from1904) {
        LocalDateTime moment = Serials.moment(number, from1904);
        if (!moment.toLocalTime().equals(LocalTime.MIDNIGHT)) {
            throw new DateTimeException("it has a time of day too");
        }
        return moment.toLocalDate();
    }

    private static LocalTime time(BigDecimal number, boolean from1904) {
        if (number.compareTo(BigDecimal.ONE) >= 0) {
            throw new DateTimeException("it is more than a time of day");
        }
        return Serials.moment(number, from1904).toLocalTime();
    }

    /** A number where a text is wanted: as a person sees it. */
    private static String shown(BigDecimal number, Kind kind, boolean from1904) {
        LocalDateTime moment = kind == Kind.NUMBER ? null : Serials.moment(number, from1904);
        return switch (kind) {
            case DAY -> JavaValues.text(moment.toLocalDate());
            case TIME -> JavaValues.text(moment.toLocalTime());
            case MOMENT -> JavaValues.text(moment);
            default -> plain(number);
        };
    }

    private static String plain(BigDecimal number) {
        BigDecimal stripped = number.stripTrailingZeros();
        return stripped.scale() < 0 ? stripped.setScale(0).toPlainString() : stripped.toPlainString();
    }
}
