package org.orderlyferry.columnar.parquet;

import static org.apache.parquet.schema.LogicalTypeAnnotation.TimeUnit;

import java.util.List;
import org.apache.parquet.schema.LogicalTypeAnnotation;
import org.apache.parquet.schema.LogicalTypeAnnotation.DecimalLogicalTypeAnnotation;
import org.apache.parquet.schema.LogicalTypeAnnotation.IntLogicalTypeAnnotation;
import org.apache.parquet.schema.LogicalTypeAnnotation.TimeLogicalTypeAnnotation;
import org.apache.parquet.schema.LogicalTypeAnnotation.TimestampLogicalTypeAnnotation;
import org.apache.parquet.schema.MessageType;
import org.apache.parquet.schema.PrimitiveType;
import org.apache.parquet.schema.PrimitiveType.PrimitiveTypeName;
import org.apache.parquet.schema.Type;
import org.apache.parquet.schema.Types;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/** The file's types as ours, and back. */
final class ParquetTypes {

    /** Digits that all programs know, which is what 16 bytes hold. */
    static final int MOST_DIGITS = 38;

    static final int DECIMAL_BYTES = 16;

    private static final int MICROS = 6;
    private static final int MILLIS = 3;
    private static final int NANOS = 9;
    private static final int UUID_BYTES = 16;

    private ParquetTypes() {}

    /** A file's schema for a table. */
    static MessageType schema(TableDefinition table) {
        List<Type> fields = table.columns().stream().map(ParquetTypes::field).toList();
        return new MessageType(table.name().name(), fields);
    }

    private static Type field(ColumnDefinition column) {
        Type.Repetition repetition = column.nullable() ? Type.Repetition.OPTIONAL : Type.Repetition.REQUIRED;
        LogicalType type = column.type();
        PrimitiveTypeName primitive =
                switch (type.name()) {
                    case BOOLEAN -> PrimitiveTypeName.BOOLEAN;
                    case SMALLINT, INTEGER, DATE -> PrimitiveTypeName.INT32;
                    case BIGINT, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> PrimitiveTypeName.INT64;
                    case REAL -> PrimitiveTypeName.FLOAT;
                    case DOUBLE -> PrimitiveTypeName.DOUBLE;
                    case UUID -> PrimitiveTypeName.FIXED_LEN_BYTE_ARRAY;
                    case DECIMAL -> isDecimal(type) ? PrimitiveTypeName.FIXED_LEN_BYTE_ARRAY : PrimitiveTypeName.BINARY;
                    default -> PrimitiveTypeName.BINARY;
                };
        Types.PrimitiveBuilder<PrimitiveType> field = Types.primitive(primitive, repetition);
        if (primitive == PrimitiveTypeName.FIXED_LEN_BYTE_ARRAY) {
            field = field.length(type.name() == TypeName.UUID ? UUID_BYTES : DECIMAL_BYTES);
        }
        return field.as(annotation(type)).named(column.name());
    }

    private static LogicalTypeAnnotation annotation(LogicalType type) {
        return switch (type.name()) {
            case SMALLINT -> LogicalTypeAnnotation.intType(Short.SIZE, true);
            case INTEGER -> LogicalTypeAnnotation.intType(Integer.SIZE, true);
            case BIGINT -> LogicalTypeAnnotation.intType(Long.SIZE, true);
            case DATE -> LogicalTypeAnnotation.dateType();
            case TIME -> LogicalTypeAnnotation.timeType(false, unit(type));
            case TIMESTAMP -> LogicalTypeAnnotation.timestampType(false, unit(type));
            case TIMESTAMP_WITH_TIME_ZONE -> LogicalTypeAnnotation.timestampType(true, unit(type));
            case UUID -> LogicalTypeAnnotation.uuidType();
            case JSON, ARRAY -> LogicalTypeAnnotation.jsonType();
            case DECIMAL ->
                isDecimal(type)
                        ? LogicalTypeAnnotation.decimalType(type.scale(), type.size())
                        : LogicalTypeAnnotation.stringType();
            case CHARACTER, VARCHAR, CLOB, XML, INTERVAL -> LogicalTypeAnnotation.stringType();
            case BOOLEAN, REAL, DOUBLE, BINARY, VARBINARY, BLOB -> null;
        };
    }

    /** Whether a decimal type is one in the file, too; else its numbers are texts. */
    static boolean isDecimal(LogicalType type) {
        return type.isSized() && type.size() <= MOST_DIGITS && type.scale() >= 0 && type.scale() <= type.size();
    }

    /** Micros reach from the first year to the last; nanos only from 1677 to 2262. */
    static TimeUnit unit(LogicalType type) {
        return type.isSized() && type.size() > MICROS ? TimeUnit.NANOS : TimeUnit.MICROS;
    }

    /** The column of a name for a field of a file. */
    static ColumnDefinition column(Type field, String name) {
        boolean nullable = field.getRepetition() != Type.Repetition.REQUIRED;
        LogicalType type = field.isPrimitive() && field.getRepetition() != Type.Repetition.REPEATED
                ? type(field.asPrimitiveType())
                : LogicalType.JSON;
        return ColumnDefinition.named(name, type).nullable(nullable).build();
    }

    /** The type of a single value. */
    static LogicalType type(PrimitiveType field) {
        LogicalTypeAnnotation told = field.getLogicalTypeAnnotation();
        if (told instanceof DecimalLogicalTypeAnnotation decimal) {
            return LogicalType.decimal(decimal.getPrecision(), decimal.getScale());
        }
        return switch (field.getPrimitiveTypeName()) {
            case BOOLEAN -> LogicalType.BOOLEAN;
            case FLOAT -> LogicalType.of(TypeName.REAL);
            case DOUBLE -> LogicalType.DOUBLE;
            case INT96 -> LogicalType.of(TypeName.TIMESTAMP, NANOS);
            case INT32 -> whole(told, false);
            case INT64 -> whole(told, true);
            case BINARY, FIXED_LEN_BYTE_ARRAY -> bytes(told);
        };
    }

    private static LogicalType whole(LogicalTypeAnnotation told, boolean wide) {
        if (told instanceof LogicalTypeAnnotation.DateLogicalTypeAnnotation) {
            return LogicalType.DATE;
        } else if (told instanceof TimeLogicalTypeAnnotation time) {
            return LogicalType.of(TypeName.TIME, digits(time.getUnit()));
        } else if (told instanceof TimestampLogicalTypeAnnotation moment) {
            return LogicalType.of(
                    moment.isAdjustedToUTC() ? TypeName.TIMESTAMP_WITH_TIME_ZONE : TypeName.TIMESTAMP,
                    digits(moment.getUnit()));
        } else if (told instanceof IntLogicalTypeAnnotation number) {
            int bits = number.getBitWidth() + (number.isSigned() ? 0 : 1);
            return bits <= Short.SIZE
                    ? LogicalType.of(TypeName.SMALLINT)
                    : bits <= Integer.SIZE
                            ? LogicalType.INTEGER
                            : bits <= Long.SIZE ? LogicalType.BIGINT : LogicalType.decimal(20, 0);
        }
        return wide ? LogicalType.BIGINT : LogicalType.INTEGER;
    }

    private static int digits(TimeUnit unit) {
        return switch (unit) {
            case MILLIS -> MILLIS;
            case MICROS -> MICROS;
            case NANOS -> NANOS;
        };
    }

    private static LogicalType bytes(LogicalTypeAnnotation told) {
        if (told instanceof LogicalTypeAnnotation.StringLogicalTypeAnnotation
                || told instanceof LogicalTypeAnnotation.EnumLogicalTypeAnnotation) {
            return LogicalType.CLOB;
        } else if (told instanceof LogicalTypeAnnotation.JsonLogicalTypeAnnotation) {
            return LogicalType.JSON;
        } else if (told instanceof LogicalTypeAnnotation.UUIDLogicalTypeAnnotation) {
            return LogicalType.UUID;
        } else if (told instanceof LogicalTypeAnnotation.Float16LogicalTypeAnnotation) {
            return LogicalType.of(TypeName.REAL);
        }
        return LogicalType.BLOB;
    }
}
