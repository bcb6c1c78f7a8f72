package org.orderlyferry.office.sheet;

import java.math.BigDecimal;
import java.math.MathContext;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.record.text.JavaValues;

/** Numbers of spreadsheets, which are doubles and by nothing but the way they are shown also days and times, as value text. */
public final class CellNumbers {

    /** There are few formats, and many cells. */
    private static final Map<String, CellKind> BY_FORMAT = new ConcurrentHashMap<>();

    private static final int MOST_FORMATS = 10_000;

    /** A spreadsheet's numbers are doubles; a text of a milliard zeros was made to do harm. */
    private static final int MOST_PLACES = 1_100;

    private static final MathContext SHOWN = new MathContext(15);

    private CellNumbers() {}

    /**
     * The number that a person sees. Spreadsheet programs count with doubles, of which they show 15 digits and write 17:
     * where the 15 digits are the same double, they are the number.
     */
    public static BigDecimal seen(BigDecimal written) {
        if (written.precision() <= SHOWN.getPrecision()) {
            return written;
        }
        BigDecimal shown = written.round(SHOWN);
        return shown.doubleValue() == written.doubleValue() ? shown : written;
    }

    /** What a number is by the format in which it is shown. */
    public static CellKind kind(BigDecimal number, String format) {
        if (BY_FORMAT.size() > MOST_FORMATS) {
            BY_FORMAT.clear();
        }
        CellKind kind = BY_FORMAT.computeIfAbsent(format, CellNumbers::kindOf);
        return switch (kind) {
            // what isn't shown is there all the same
            case DAY -> isWhole(number) ? CellKind.DAY : CellKind.MOMENT;
            case TIME -> number.compareTo(BigDecimal.ONE) < 0 ? CellKind.TIME : CellKind.NUMBER;
            default -> kind;
        };
    }

    private static boolean isWhole(BigDecimal number) {
        return number.scale() <= 0 || number.stripTrailingZeros().scale() <= 0;
    }

    private static CellKind kindOf(String format) {
        String bare = format.replaceAll("\"[^\"]*\"|\\[[^\\]]*\\]|\\\\.", "").toLowerCase(Locale.ROOT);
        if (bare.contains("general") || bare.startsWith("@")) {
            return CellKind.NUMBER;
        }
        boolean day = bare.contains("y") || bare.contains("d");
        boolean time = bare.contains("h") || bare.contains("s");
        return day && time ? CellKind.MOMENT : day ? CellKind.DAY : time ? CellKind.TIME : CellKind.NUMBER;
    }

    /**
     * A number as value text.
     *
     * @param number as a person sees it
     * @throws ArithmeticException for a number outside of what spreadsheets count with
     * @throws DateTimeException for a day or time outside of the calendar
     */
    public static String text(BigDecimal number, CellKind kind, LogicalType type, boolean from1904) {
        if (Math.abs((long) number.scale()) > MOST_PLACES) {
            throw new ArithmeticException("its exponent is outside of a double's");
        }
        return switch (type.name()) {
            case REAL -> JavaValues.text(number.floatValue());
            case DOUBLE -> JavaValues.text(number.doubleValue());
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
    private static String shown(BigDecimal number, CellKind kind, boolean from1904) {
        LocalDateTime moment = kind == CellKind.NUMBER ? null : Serials.moment(number, from1904);
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
