package org.orderlyferry.office.access;

import com.healthmarketscience.jackcess.DataType;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Locale;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.record.text.ValueText;

/** Values as the file library has them, to value text and back. */
final class AccessValues {

    /** The day that stands for none, where a column holds times of a day. */
    private static final LocalDate NO_DAY = LocalDate.of(1899, 12, 30);

    private static final LocalDate FIRST_DAY = LocalDate.of(100, 1, 1);
    private static final LocalDate LAST_DAY = LocalDate.of(9999, 12, 31);
    private static final int MILLISECOND = 1_000_000;
    private static final int TICK = 100;

    private AccessValues() {}

    /** Whether a column of the file can give values of a type. */
    static boolean canGive(DataType held, LogicalType type) {
        return switch (held) {
            case BOOLEAN -> type.name() == TypeName.BOOLEAN;
            case BYTE, INT -> type.name() == TypeName.BOOLEAN || type.name().isExactNumber();
            case LONG, BIG_INT, NUMERIC, MONEY -> type.name().isExactNumber();
            case FLOAT, DOUBLE -> type.name().isApproximateNumber();
            case SHORT_DATE_TIME, EXT_DATE_TIME ->
                type.name() == TypeName.DATE || type.name() == TypeName.TIME || type.name() == TypeName.TIMESTAMP;
            case GUID -> type.name() == TypeName.UUID;
            case BINARY, OLE -> type.name().isBinary();
            default -> !type.name().isBinary();
        };
    }

    /**
     * Adds a value that was read to a batch.
     *
     * @throws InvalidValueException if it is none of the type
     */
    static void read(Object value, LogicalType type, RecordBatch batch) throws InvalidValueException {
        if (value == null) {
            batch.addNull();
        } else if (value instanceof byte[] bytes) {
            if (!type.name().isBinary()) {
                throw new InvalidValueException("is bytes, and the column is " + type);
            }
            batch.add(bytes);
        } else if (!batch.add(text(value, type))) {
            throw new InvalidValueException("holds half of a surrogate pair, which no encoding of Unicode has");
        }
    }

    private static String text(Object value, LogicalType type) throws InvalidValueException {
        if (value instanceof LocalDateTime moment) {
            return moment(moment, type);
        } else if (value instanceof Double number) {
            return JavaValues.text(number.doubleValue());
        } else if (value instanceof Float number) {
            return JavaValues.text(number.floatValue());
        } else if (value instanceof Byte number) {
            // which has no sign in the file
            return Integer.toString(Byte.toUnsignedInt(number));
        } else if (value instanceof BigDecimal number) {
            return number.toPlainString();
        } else if (type.name() == TypeName.BOOLEAN && value instanceof Number number) {
            return Boolean.toString(number.intValue() != 0);
        } else if (type.name() == TypeName.UUID) {
            return value.toString().replaceAll("[{}]", "").toLowerCase(Locale.ROOT);
        } else if (type.name().isText() || !(value instanceof CharSequence)) {
            return value.toString();
        }
        ValueText form = ValueText.of(type);
        String text = value.toString();
        byte[] bytes = text.getBytes(java.nio.charset.StandardCharsets.UTF_8);
        return form.isProper(bytes, 0, bytes.length) ? text : form.toProper(text);
    }

    private static String moment(LocalDateTime moment, LogicalType type) throws InvalidValueException {
        if (type.name() == TypeName.DATE) {
            if (!moment.toLocalTime().equals(LocalTime.MIDNIGHT)) {
                throw new InvalidValueException("has a time of day, and the column is DATE");
            }
            return JavaValues.text(moment.toLocalDate());
        }
        return type.name() == TypeName.TIME ? JavaValues.text(moment.toLocalTime()) : JavaValues.text(moment);
    }

    /**
     * A value for a column of the file.
     *
     * @throws InvalidValueException if the file can't hold it
     */
    static Object written(Records batch, int row, int column, LogicalType type, DataType held)
            throws InvalidValueException {
        if (type.name().isBinary()) {
            return batch.copy(row, column);
        }
        String text = batch.text(row, column);
        return switch (held) {
            case BOOLEAN -> text.equals("true");
            case INT -> type.name() == TypeName.BOOLEAN ? (short) (text.equals("true") ? 1 : 0) : Short.valueOf(text);
            case LONG -> Integer.valueOf(text);
            case BIG_INT -> Long.valueOf(text);
            case NUMERIC -> new BigDecimal(text);
            case FLOAT -> JavaValues.floatOf(text);
            case DOUBLE -> JavaValues.doubleOf(text);
            case SHORT_DATE_TIME -> shortMoment(text, type);
            case EXT_DATE_TIME -> extended(JavaValues.timestamp(text));
            case GUID -> "{" + text.toUpperCase(Locale.ROOT) + "}";
            default -> unmarked(text);
        };
    }

    /** Such files mark their short form of texts by a character that texts themselves may begin with. */
    private static String unmarked(String text) throws InvalidValueException {
        if (text.startsWith("\uFEFF")) {
            throw new InvalidValueException("begins with U+FEFF, which a desktop database takes for a mark of its own");
        }
        return text;
    }

    private static LocalDateTime shortMoment(String text, LogicalType type) throws InvalidValueException {
        LocalDateTime moment =
                switch (type.name()) {
                    case DATE -> JavaValues.date(text).atStartOfDay();
                    case TIME -> NO_DAY.atTime(LocalTime.parse(text));
                    default -> JavaValues.timestamp(text);
                };
        if (moment.toLocalDate().isBefore(FIRST_DAY) || moment.toLocalDate().isAfter(LAST_DAY)) {
            throw new InvalidValueException("is outside of the years 100 to 9999, which a desktop database has");
        }
        if (moment.getNano() % MILLISECOND != 0) {
            throw new InvalidValueException("has more digits behind a second than the three that its column holds");
        }
        return moment;
    }

    private static LocalDateTime extended(LocalDateTime moment) throws InvalidValueException {
        if (moment.getYear() < 1 || moment.toLocalDate().isAfter(LAST_DAY)) {
            throw new InvalidValueException("is outside of the years 1 to 9999, which a desktop database has");
        }
        if (moment.getNano() % TICK != 0) {
            throw new InvalidValueException("has more digits behind a second than the seven that its column holds");
        }
        return moment;
    }
}
