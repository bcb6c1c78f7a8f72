package org.orderlyferry.office.xlsx;

import java.math.BigDecimal;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.record.JavaValues;

/** Cells' values as value text. */
final class Cells {

    /** There are few formats, and many cells. */
    private static final Map<String, Kind> BY_FORMAT = new ConcurrentHashMap<>();

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
            case ERROR -> Kind.ERROR;
            case FORMULA -> isNumber(cell.getRawValue()) ? numberKind(cell) : formulaKind(cell.getRawValue());
            default -> Kind.TEXT;
        };
    }

    private static Kind formulaKind(String cached) {
        return cached == null ? Kind.NOTHING : cached.startsWith("#") ? Kind.ERROR : Kind.TEXT;
    }

    private static boolean isNumber(String text) {
        try {
            return text != null && !text.isEmpty() && new BigDecimal(text) != null;
        } catch (NumberFormatException e) {
            return false;
        }
    }

    /** A number is a date by nothing but the way it is shown. */
    private static Kind numberKind(Cell cell) {
        String format = cell.getDataFormatString();
        return format == null ? Kind.NUMBER : BY_FORMAT.computeIfAbsent(format, Cells::kindOf);
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

    /** The value text for a column of a type; what doesn't fit it is told when the value is checked. */
    static String text(Cell cell, Kind kind, LogicalType type, boolean from1904) {
        return switch (kind) {
            case TRUTH -> Boolean.toString(isTrue(cell));
            case NUMBER, DAY, TIME, MOMENT ->
                isWhole(cell.getRawValue(), type)
                        ? cell.getRawValue()
                        : number(new BigDecimal(cell.getRawValue()), kind, type, from1904);
            default -> XString.back(cell.getType() == CellType.FORMULA ? cell.getRawValue() : cell.getText());
        };
    }

    /** Whether a number's text is its value text as it stands. */
    private static boolean isWhole(String raw, LogicalType type) {
        if (!type.name().isExactNumber() || raw.length() > 15) {
            return false;
        }
        for (int i = 0; i < raw.length(); i++) {
            if (raw.charAt(i) < '0' || raw.charAt(i) > '9') {
                return false;
            }
        }
        return raw.length() == 1 || raw.charAt(0) != '0';
    }

    private static boolean isTrue(Cell cell) {
        return cell.getType() == CellType.BOOLEAN ? cell.asBoolean() : "1".equals(cell.getRawValue());
    }

    private static String number(BigDecimal number, Kind kind, LogicalType type, boolean from1904) {
        return switch (type.name()) {
            case SMALLINT, INTEGER, BIGINT, DECIMAL -> plain(number);
            case REAL -> JavaValues.text(number.floatValue());
            case DOUBLE -> JavaValues.text(number.doubleValue());
            case BOOLEAN -> number.signum() == 0 ? "false" : "true";
            case DATE -> JavaValues.text(Serials.moment(number, from1904).toLocalDate());
            case TIME -> JavaValues.text(time(number, from1904));
            case TIMESTAMP -> JavaValues.text(Serials.moment(number, from1904));
            case TIMESTAMP_WITH_TIME_ZONE -> JavaValues.text(Serials.moment(number, from1904)) + 'Z';
            default -> shown(number, kind, from1904);
        };
    }

    private static LocalTime time(BigDecimal number, boolean from1904) {
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
