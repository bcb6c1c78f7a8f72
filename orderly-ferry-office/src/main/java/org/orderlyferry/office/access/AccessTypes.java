package org.orderlyferry.office.access;

import com.healthmarketscience.jackcess.Column;
import com.healthmarketscience.jackcess.ColumnBuilder;
import com.healthmarketscience.jackcess.DataType;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** The file's types as logical types, and back. */
final class AccessTypes {

    private static final int LONGEST_TEXT = 255;
    private static final int LONGEST_BINARY = 255;
    private static final int MOST_DIGITS = 28;
    private static final int MONEY_DIGITS = 19;
    private static final int MONEY_SCALE = 4;
    private static final int MILLISECONDS = 3;
    private static final int EXTENDED = 7;
    private static final int INSTANT_LENGTH = 40;

    private AccessTypes() {}

    static LogicalType logical(Column column) {
        return switch (column.getType()) {
            case BOOLEAN -> LogicalType.BOOLEAN;
            case BYTE, INT -> LogicalType.SMALLINT;
            case LONG -> LogicalType.INTEGER;
            case BIG_INT -> LogicalType.BIGINT;
            case MONEY -> LogicalType.decimal(MONEY_DIGITS, MONEY_SCALE);
            case NUMERIC -> LogicalType.decimal(column.getPrecision(), column.getScale());
            case FLOAT -> LogicalType.REAL;
            case DOUBLE -> LogicalType.DOUBLE;
            case SHORT_DATE_TIME -> LogicalType.of(TypeName.TIMESTAMP, MILLISECONDS);
            case EXT_DATE_TIME -> LogicalType.of(TypeName.TIMESTAMP, EXTENDED);
            case TEXT -> LogicalType.varchar(column.getLengthInUnits());
            case GUID -> LogicalType.UUID;
            case BINARY -> LogicalType.of(TypeName.VARBINARY, column.getLength());
            case OLE -> LogicalType.BLOB;
            default -> LogicalType.CLOB;
        };
    }

    /** Whether a column's values can be carried at all. */
    static boolean isCarried(Column column) {
        return switch (column.getType()) {
            case COMPLEX_TYPE, UNSUPPORTED_FIXEDLEN, UNSUPPORTED_VARLEN, UNKNOWN_0D, UNKNOWN_11 -> false;
            default -> true;
        };
    }

    /** Whether a file has to be of the newest form for a column. */
    static boolean isExtended(LogicalType type) {
        return type.name() == TypeName.TIMESTAMP && (!type.isSized() || type.size() > MILLISECONDS);
    }

    /** The column in the file. */
    static ColumnBuilder column(ColumnDefinition column, String name, AccessVersion version) {
        LogicalType type = column.type();
        ColumnBuilder builder = new ColumnBuilder(name);
        switch (type.name()) {
            // a truth value of the file is never null
            case BOOLEAN -> builder.setType(column.nullable() ? DataType.INT : DataType.BOOLEAN);
            case SMALLINT -> builder.setType(DataType.INT);
            case INTEGER -> builder.setType(DataType.LONG);
            case BIGINT -> {
                if (version.hasLargeNumbers()) {
                    builder.setType(DataType.BIG_INT);
                } else {
                    builder.setType(DataType.NUMERIC).setPrecision(MONEY_DIGITS).setScale(0);
                }
            }
            case DECIMAL -> decimal(type, builder);
            case REAL -> builder.setType(DataType.FLOAT);
            case DOUBLE -> builder.setType(DataType.DOUBLE);
            case CHARACTER, VARCHAR -> text(type, builder);
            case BINARY, VARBINARY -> {
                if (type.isSized() && type.size() <= LONGEST_BINARY) {
                    builder.setType(DataType.BINARY).setLength(type.size());
                } else {
                    builder.setType(DataType.OLE);
                }
            }
            case BLOB -> builder.setType(DataType.OLE);
            case DATE -> builder.setType(DataType.SHORT_DATE_TIME);
            case TIME -> {
                if (type.isSized() && type.size() <= MILLISECONDS) {
                    builder.setType(DataType.SHORT_DATE_TIME);
                } else {
                    builder.setType(DataType.TEXT).setLengthInUnits(INSTANT_LENGTH);
                }
            }
            case TIMESTAMP -> {
                if (!isExtended(type)) {
                    builder.setType(DataType.SHORT_DATE_TIME);
                } else if (version.hasExtendedTimes()) {
                    builder.setType(DataType.EXT_DATE_TIME);
                } else {
                    builder.setType(DataType.TEXT).setLengthInUnits(INSTANT_LENGTH);
                }
            }
            case TIMESTAMP_WITH_TIME_ZONE -> builder.setType(DataType.TEXT).setLengthInUnits(INSTANT_LENGTH);
            case UUID -> builder.setType(DataType.GUID);
            case CLOB, INTERVAL, JSON, XML, ARRAY -> builder.setType(DataType.MEMO);
        }
        return builder;
    }

    private static void decimal(LogicalType type, ColumnBuilder builder) {
        if (type.isSized() && type.size() <= MOST_DIGITS && type.scale() <= type.size()) {
            builder.setType(DataType.NUMERIC).setPrecision(type.size()).setScale(Math.max(0, type.scale()));
        } else {
            builder.setType(DataType.TEXT).setLengthInUnits(LONGEST_TEXT);
        }
    }

    private static void text(LogicalType type, ColumnBuilder builder) {
        if (type.isSized() && type.size() <= LONGEST_TEXT) {
            builder.setType(DataType.TEXT).setLengthInUnits(Math.max(1, type.size()));
        } else {
            builder.setType(DataType.MEMO);
        }
    }

    /** Whether a column of the file holds what a type says, rather than a text or a number in its place. */
    static boolean isSame(LogicalType type, DataType held) {
        return switch (type.name()) {
            case BOOLEAN -> held == DataType.BOOLEAN;
            case DECIMAL, BIGINT -> held == DataType.NUMERIC || held == DataType.BIG_INT;
            case TIMESTAMP -> held != DataType.TEXT;
            case TIME, TIMESTAMP_WITH_TIME_ZONE, INTERVAL, XML, ARRAY, JSON -> false;
            default -> true;
        };
    }
}
