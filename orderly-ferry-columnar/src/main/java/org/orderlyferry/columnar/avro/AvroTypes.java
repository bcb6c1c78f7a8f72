package org.orderlyferry.columnar.avro;

import java.util.ArrayList;
import java.util.List;
import org.apache.avro.LogicalTypes;
import org.apache.avro.Schema;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/** The file's types as ours, and back. */
final class AvroTypes {

    private static final int MICROS = 6;
    private static final int MILLIS = 3;
    private static final int NANOS = 9;

    private AvroTypes() {}

    /** A file's schema for a table. */
    static Schema schema(TableDefinition table) {
        List<String> names = AvroNames.of(table.columnNames());
        List<Schema.Field> fields = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            ColumnDefinition column = table.columns().get(i);
            Schema type = type(column.type());
            fields.add(
                    column.nullable()
                            ? new Schema.Field(
                                    names.get(i),
                                    Schema.createUnion(Schema.create(Schema.Type.NULL), type),
                                    null,
                                    Schema.Field.NULL_DEFAULT_VALUE)
                            : new Schema.Field(names.get(i), type));
        }
        return Schema.createRecord(AvroNames.of(table.name().name()), null, null, false, fields);
    }

    private static Schema type(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN -> Schema.create(Schema.Type.BOOLEAN);
            case SMALLINT, INTEGER -> Schema.create(Schema.Type.INT);
            case BIGINT -> Schema.create(Schema.Type.LONG);
            case REAL -> Schema.create(Schema.Type.FLOAT);
            case DOUBLE -> Schema.create(Schema.Type.DOUBLE);
            case BINARY, VARBINARY, BLOB -> Schema.create(Schema.Type.BYTES);
            case DECIMAL ->
                isDecimal(type)
                        ? LogicalTypes.decimal(type.size(), type.scale()).addToSchema(Schema.create(Schema.Type.BYTES))
                        : Schema.create(Schema.Type.STRING);
            case DATE -> LogicalTypes.date().addToSchema(Schema.create(Schema.Type.INT));
            case TIME ->
                isFine(type)
                        ? Schema.create(Schema.Type.STRING)
                        : LogicalTypes.timeMicros().addToSchema(Schema.create(Schema.Type.LONG));
            case TIMESTAMP ->
                (isFine(type) ? LogicalTypes.localTimestampNanos() : LogicalTypes.localTimestampMicros())
                        .addToSchema(Schema.create(Schema.Type.LONG));
            case TIMESTAMP_WITH_TIME_ZONE ->
                (isFine(type) ? LogicalTypes.timestampNanos() : LogicalTypes.timestampMicros())
                        .addToSchema(Schema.create(Schema.Type.LONG));
            case UUID -> LogicalTypes.uuid().addToSchema(Schema.create(Schema.Type.STRING));
            case CHARACTER, VARCHAR, CLOB, XML, INTERVAL, JSON, ARRAY -> Schema.create(Schema.Type.STRING);
        };
    }

    /** Whether a decimal type is one in the file, too; else its numbers are texts. */
    static boolean isDecimal(LogicalType type) {
        return type.isSized() && type.scale() >= 0 && type.scale() <= type.size();
    }

    /** Whether a time has more than six digits behind the second. */
    static boolean isFine(LogicalType type) {
        return type.isSized() && type.size() > MICROS;
    }

    /** What a field holds beside null. */
    static Schema single(Schema field) {
        if (!field.isUnion()) {
            return field;
        }
        List<Schema> others = field.getTypes().stream()
                .filter(s -> s.getType() != Schema.Type.NULL)
                .toList();
        return others.size() == 1 ? others.get(0) : field;
    }

    /** The column of a name for a field of a file. */
    static ColumnDefinition column(Schema field, String name) {
        boolean nullable = field.isNullable();
        return ColumnDefinition.named(name, logical(single(field)))
                .nullable(nullable)
                .build();
    }

    /** The type of a single value; JSON where it is nested, or one of several. */
    static LogicalType logical(Schema field) {
        String told =
                field.getLogicalType() == null ? "" : field.getLogicalType().getName();
        return switch (field.getType()) {
            case BOOLEAN -> LogicalType.BOOLEAN;
            case INT ->
                switch (told) {
                    case "date" -> LogicalType.DATE;
                    case "time-millis" -> LogicalType.of(TypeName.TIME, MILLIS);
                    default -> LogicalType.INTEGER;
                };
            case LONG -> longs(told);
            case FLOAT -> LogicalType.of(TypeName.REAL);
            case DOUBLE -> LogicalType.DOUBLE;
            case BYTES, FIXED ->
                field.getLogicalType() instanceof LogicalTypes.Decimal decimal
                        ? LogicalType.decimal(decimal.getPrecision(), decimal.getScale())
                        : told.equals("uuid") ? LogicalType.UUID : LogicalType.BLOB;
            case STRING -> told.equals("uuid") ? LogicalType.UUID : LogicalType.of(TypeName.CLOB);
            case ENUM -> LogicalType.of(TypeName.CLOB);
            case NULL -> LogicalType.of(TypeName.CLOB);
            case ARRAY, MAP, RECORD, UNION -> LogicalType.JSON;
        };
    }

    private static LogicalType longs(String told) {
        TypeName moment = told.startsWith("local-") ? TypeName.TIMESTAMP : TypeName.TIMESTAMP_WITH_TIME_ZONE;
        return switch (told) {
            case "time-micros" -> LogicalType.of(TypeName.TIME, MICROS);
            case "timestamp-millis", "local-timestamp-millis" -> LogicalType.of(moment, MILLIS);
            case "timestamp-micros", "local-timestamp-micros" -> LogicalType.of(moment, MICROS);
            case "timestamp-nanos", "local-timestamp-nanos" -> LogicalType.of(moment, NANOS);
            default -> LogicalType.BIGINT;
        };
    }
}
