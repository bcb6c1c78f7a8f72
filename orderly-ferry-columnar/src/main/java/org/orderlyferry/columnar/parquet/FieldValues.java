package org.orderlyferry.columnar.parquet;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.ByteBuffer;
import java.time.DateTimeException;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import org.apache.parquet.io.api.Binary;
import org.apache.parquet.io.api.RecordConsumer;
import org.apache.parquet.schema.LogicalTypeAnnotation;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.columnar.Epochs;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.JavaValues;

/** A record's values as a file's fields hold them. */
final class FieldValues {

    private final List<ColumnDefinition> columns;

    FieldValues(List<ColumnDefinition> columns) {
        this.columns = columns;
    }

    /**
     * All values of a record; null for null.
     *
     * @throws BadValueException if a field can't hold one
     */
    @Nullable
    Object[] of(Records batch, int row) {
        Object[] values = new Object[columns.size()];
        for (int i = 0; i < values.length; i++) {
            if (!batch.isNull(row, i)) {
                try {
                    values[i] = value(batch, row, i);
                } catch (ArithmeticException | DateTimeException | IllegalArgumentException e) {
                    throw new BadValueException(
                            batch.origin(row),
                            columns.get(i).name(),
                            batch.text(row, i),
                            "can't be written as " + columns.get(i).type() + " of a Parquet file: " + e.getMessage());
                }
            }
        }
        return values;
    }

    private Object value(Records batch, int row, int column) {
        LogicalType type = columns.get(column).type();
        return switch (type.name()) {
            case BOOLEAN -> batch.text(row, column).equals("true");
            case SMALLINT, INTEGER -> Integer.parseInt(batch.text(row, column));
            case BIGINT -> Long.parseLong(batch.text(row, column));
            case REAL -> JavaValues.floatOf(batch.text(row, column));
            case DOUBLE -> JavaValues.doubleOf(batch.text(row, column));
            case DECIMAL ->
                ParquetTypes.isDecimal(type)
                        ? decimal(batch.text(row, column), type)
                        : Binary.fromConstantByteArray(batch.copy(row, column));
            case DATE -> (int) JavaValues.date(batch.text(row, column)).toEpochDay();
            case TIME -> Epochs.units(LocalTime.parse(batch.text(row, column)), nanos(type));
            case TIMESTAMP ->
                Epochs.units(JavaValues.timestamp(batch.text(row, column)).toInstant(ZoneOffset.UTC), nanos(type));
            case TIMESTAMP_WITH_TIME_ZONE ->
                Epochs.units(JavaValues.instant(batch.text(row, column)).toInstant(), nanos(type));
            case UUID -> {
                UUID id = UUID.fromString(batch.text(row, column));
                yield Binary.fromConstantByteArray(ByteBuffer.allocate(16)
                        .putLong(id.getMostSignificantBits())
                        .putLong(id.getLeastSignificantBits())
                        .array());
            }
            default -> Binary.fromConstantByteArray(batch.copy(row, column));
        };
    }

    private static Binary decimal(String text, LogicalType type) {
        BigDecimal number = new BigDecimal(text).setScale(type.scale(), RoundingMode.UNNECESSARY);
        if (number.precision() > type.size()) {
            throw new ArithmeticException("it has more than " + type.size() + " digits");
        }
        byte[] digits = number.unscaledValue().toByteArray();
        byte[] all = new byte[ParquetTypes.DECIMAL_BYTES];
        Arrays.fill(all, 0, all.length - digits.length, (byte) (number.signum() < 0 ? -1 : 0));
        System.arraycopy(digits, 0, all, all.length - digits.length, digits.length);
        return Binary.fromConstantByteArray(all);
    }

    private static long nanos(LogicalType type) {
        return ParquetTypes.unit(type) == LogicalTypeAnnotation.TimeUnit.NANOS ? 1 : 1_000;
    }

    /** Writes a record's values. */
    void write(@Nullable Object[] values, RecordConsumer to) {
        to.startMessage();
        for (int i = 0; i < values.length; i++) {
            Object value = values[i];
            if (value != null) {
                String name = columns.get(i).name();
                to.startField(name, i);
                if (value instanceof Binary bytes) {
                    to.addBinary(bytes);
                } else if (value instanceof Integer number) {
                    to.addInteger(number);
                } else if (value instanceof Long number) {
                    to.addLong(number);
                } else if (value instanceof Double number) {
                    to.addDouble(number);
                } else if (value instanceof Float number) {
                    to.addFloat(number);
                } else {
                    to.addBoolean((Boolean) value);
                }
                to.endField(name, i);
            }
        }
        to.endMessage();
    }
}
