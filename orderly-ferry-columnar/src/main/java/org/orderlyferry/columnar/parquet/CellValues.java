package org.orderlyferry.columnar.parquet;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.UUID;
import org.apache.parquet.io.api.Binary;
import org.apache.parquet.schema.LogicalTypeAnnotation;
import org.apache.parquet.schema.LogicalTypeAnnotation.DecimalLogicalTypeAnnotation;
import org.apache.parquet.schema.LogicalTypeAnnotation.IntLogicalTypeAnnotation;
import org.apache.parquet.schema.LogicalTypeAnnotation.TimeLogicalTypeAnnotation;
import org.apache.parquet.schema.LogicalTypeAnnotation.TimestampLogicalTypeAnnotation;
import org.apache.parquet.schema.PrimitiveType;
import org.apache.parquet.schema.PrimitiveType.PrimitiveTypeName;
import org.orderlyferry.columnar.Epochs;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.record.text.Utf8;

/** Values of a file's fields as value text. */
final class CellValues {

    private static final long JULIAN_EPOCH = 2_440_588;

    private CellValues() {}

    /** A number of a field, which may stand for a day, a time or a moment. */
    static String whole(PrimitiveType field, long value) throws InvalidValueException {
        LogicalTypeAnnotation told = field.getLogicalTypeAnnotation();
        if (told instanceof DecimalLogicalTypeAnnotation decimal) {
            return BigDecimal.valueOf(value, decimal.getScale()).toPlainString();
        } else if (told instanceof IntLogicalTypeAnnotation number && !number.isSigned()) {
            return number.getBitWidth() == Long.SIZE
                    ? Long.toUnsignedString(value)
                    : Long.toString(value & (1L << number.getBitWidth()) - 1);
        }
        if (told instanceof LogicalTypeAnnotation.DateLogicalTypeAnnotation) {
            return Epochs.day(value);
        } else if (told instanceof TimeLogicalTypeAnnotation time) {
            return Epochs.time(value, nanos(time.getUnit()));
        } else if (told instanceof TimestampLogicalTypeAnnotation moment) {
            return Epochs.moment(value, nanos(moment.getUnit()), moment.isAdjustedToUTC());
        }
        return Long.toString(value);
    }

    private static long nanos(LogicalTypeAnnotation.TimeUnit unit) {
        return switch (unit) {
            case MILLIS -> 1_000_000;
            case MICROS -> 1_000;
            case NANOS -> 1;
        };
    }

    /** Bytes of a field as value text; null where they are bytes. */
    static String text(PrimitiveType field, Binary value) throws InvalidValueException {
        LogicalTypeAnnotation told = field.getLogicalTypeAnnotation();
        if (told instanceof DecimalLogicalTypeAnnotation decimal) {
            if (value.length() == 0) {
                throw new InvalidValueException("is a number without a digit");
            }
            return new BigDecimal(new BigInteger(value.getBytes()), decimal.getScale()).toPlainString();
        } else if (field.getPrimitiveTypeName() == PrimitiveTypeName.INT96) {
            return old(value);
        } else if (told instanceof LogicalTypeAnnotation.UUIDLogicalTypeAnnotation) {
            ByteBuffer bytes = ByteBuffer.wrap(value.getBytes());
            return new UUID(bytes.getLong(), bytes.getLong()).toString();
        } else if (told instanceof LogicalTypeAnnotation.Float16LogicalTypeAnnotation) {
            return JavaValues.text(half(ByteBuffer.wrap(value.getBytes())
                    .order(ByteOrder.LITTLE_ENDIAN)
                    .getShort()));
        } else if (told instanceof LogicalTypeAnnotation.StringLogicalTypeAnnotation
                || told instanceof LogicalTypeAnnotation.EnumLogicalTypeAnnotation
                || told instanceof LogicalTypeAnnotation.JsonLogicalTypeAnnotation) {
            byte[] bytes = value.getBytes();
            if (Utf8.firstInvalid(bytes, 0, bytes.length) >= 0) {
                throw new InvalidValueException("isn't UTF-8");
            }
            return value.toStringUsingUTF8();
        }
        return null;
    }

    /** A moment as older programs wrote it: the nanosecond of a day, and the day by the Julian count. */
    private static String old(Binary value) throws InvalidValueException {
        ByteBuffer bytes = ByteBuffer.wrap(value.getBytes()).order(ByteOrder.LITTLE_ENDIAN);
        long nanos = bytes.getLong();
        long day = Integer.toUnsignedLong(bytes.getInt()) - JULIAN_EPOCH;
        return Epochs.moment(day, nanos);
    }

    /** A number of 16 bits (IEEE 754 binary16). */
    private static float half(short bits) {
        int exponent = bits >> 10 & 0x1f;
        int fraction = bits & 0x3ff;
        float size =
                switch (exponent) {
                    case 0 -> fraction * 0x1p-24f;
                    case 0x1f -> fraction == 0 ? Float.POSITIVE_INFINITY : Float.NaN;
                    default -> (1 + fraction / 1024f) * (float) Math.pow(2, exponent - 15);
                };
        return bits < 0 ? -size : size;
    }
}
