package org.orderlyferry.databases.lane;

import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.databases.dialect.CellBinder;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;

/** How JDBC itself has values of the common types given and taken; a dialect overrides what its system does otherwise. */
public final class StandardCells {

    /** On either side of the point; what H2 has room for. */
    private static final int MOST_DIGITS = 100_000;

    private StandardCells() {}

    /** Numbers, truth values and bytes by their own types; all else as the driver's text. */
    public static CellReader reader(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN ->
                (row, i, batch) -> {
                    boolean value = row.getBoolean(i);
                    CellReader.text(row.wasNull() ? null : Boolean.toString(value), batch);
                };
            case SMALLINT, INTEGER, BIGINT ->
                (row, i, batch) -> {
                    long value = row.getLong(i);
                    if (row.wasNull()) {
                        batch.addNull();
                    } else {
                        batch.add(value);
                    }
                };
            case DECIMAL ->
                (row, i, batch) -> {
                    CellReader.text(plain(row.getBigDecimal(i)), batch);
                };
            case REAL ->
                (row, i, batch) -> {
                    float value = row.getFloat(i);
                    CellReader.text(row.wasNull() ? null : JavaValues.text(value), batch);
                };
            case DOUBLE ->
                (row, i, batch) -> {
                    double value = row.getDouble(i);
                    CellReader.text(row.wasNull() ? null : JavaValues.text(value), batch);
                };
            case BINARY, VARBINARY, BLOB -> (row, i, batch) -> CellReader.bytes(row.getBytes(i), batch);
            default -> (row, i, batch) -> CellReader.text(row.getString(i), batch);
        };
    }

    /** Numbers and bytes by their own types; all else as text. */
    public static CellBinder binder(LogicalType type) {
        return switch (type.name()) {
            case SMALLINT, INTEGER, BIGINT ->
                (statement, i, batch, row, column) -> statement.setLong(i, Long.parseLong(batch.text(row, column)));
            case DECIMAL ->
                (statement, i, batch, row, column) ->
                        statement.setBigDecimal(i, new BigDecimal(batch.text(row, column)));
            case BINARY, VARBINARY, BLOB ->
                (statement, i, batch, row, column) -> statement.setBytes(i, batch.copy(row, column));
            default -> (statement, i, batch, row, column) -> statement.setString(i, batch.text(row, column));
        };
    }

    /**
     * An exact number with all its digits.
     *
     * @param value may be null
     * @throws InvalidValueException if these are more than anybody means: a power of ten is a few bytes, and its digits fill the memory
     */
    public static @Nullable String plain(@Nullable BigDecimal value) throws InvalidValueException {
        if (value == null) {
            return null;
        }
        if (value.scale() > MOST_DIGITS || (long) value.precision() - value.scale() > MOST_DIGITS) {
            throw InvalidValueException.outOfRange("has more digits than another system could hold");
        }
        return value.toPlainString();
    }
}
