package org.orderlyferry.databases.driver;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import org.orderlyferry.databases.dialect.CellBinder;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.lane.JavaTimeCells;
import org.orderlyferry.databases.lane.StandardCells;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.ValueText;

/**
 * How any driver gives and takes values. Never by the types of {@code java.sql}: these shift times that fall into the hour
 * which a zone leaves out, and days of before 1582.
 */
final class DriverCells {

    private DriverCells() {}

    static boolean isTimed(TypeName type) {
        return type == TypeName.DATE || type.isTimed();
    }

    /** Reads a column. */
    static CellReader reader(LogicalType type, Way way) {
        ValueText form = ValueText.of(LogicalType.of(type.name()));
        if (isTimed(type.name())) {
            return way == Way.OBJECT
                    ? JavaTimeCells.reader(type)
                    : (row, i, batch) -> CellReader.text(text(form, row, i), batch);
        }
        return type.name() == TypeName.UUID
                ? (row, i, batch) -> CellReader.text(text(form, row, i), batch)
                : StandardCells.reader(type);
    }

    private static String text(ValueText form, ResultSet row, int i) throws SQLException, InvalidValueException {
        String written = row.getString(i);
        return written == null ? null : form.toProper(iso(written, form.type().name()));
    }

    /** What drivers and servers write of a time, as ISO 8601 has it: {@code 2031-04-09 7:30:00.50} as {@code 2031-04-09T07:30:00.5}. */
    private static String iso(String written, TypeName type) {
        String text = written.strip();
        if (!isTimed(type) || type == TypeName.DATE) {
            return text;
        }
        text = text.replaceFirst("^(-?\\d+-\\d\\d-\\d\\d)[ -](?=\\d)", "$1T")
                .replaceFirst("(^|T)(\\d)([:.])", "$10$2$3")
                .replaceFirst("(^|T)(\\d\\d)\\.(\\d\\d)\\.(\\d\\d)", "$1$2:$3:$4")
                .replaceFirst("(^|T)(\\d\\d:\\d\\d)(?!:)", "$1$2:00")
                .replaceFirst("(\\.\\d*?)0+(?=$|[Z+ -])", "$1")
                .replaceFirst("\\.(?=$|[Z+ -])", "");
        return type == TypeName.TIMESTAMP_WITH_TIME_ZONE
                ? text.replaceFirst(" ?([+-])(\\d):?(\\d\\d)$", "$10$2:$3")
                        .replaceFirst(" ?([+-]\\d\\d):?(\\d\\d)$", "$1:$2")
                : text;
    }

    /** What a null of a column is one of: some drivers want to be told. */
    static int code(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN -> Types.BOOLEAN;
            case SMALLINT -> Types.SMALLINT;
            case INTEGER -> Types.INTEGER;
            case BIGINT -> Types.BIGINT;
            case DECIMAL -> Types.DECIMAL;
            case REAL -> Types.REAL;
            case DOUBLE -> Types.DOUBLE;
            case BINARY, VARBINARY -> Types.VARBINARY;
            case BLOB -> Types.BLOB;
            case DATE -> Types.DATE;
            case TIME -> Types.TIME;
            case TIMESTAMP -> Types.TIMESTAMP;
            case TIMESTAMP_WITH_TIME_ZONE -> Types.TIMESTAMP_WITH_TIMEZONE;
            default -> Types.VARCHAR;
        };
    }

    /** Gives values to a column. */
    static CellBinder binder(LogicalType type, Given given) {
        CellBinder objects = JavaTimeCells.binder(type);
        if (!isTimed(type.name()) || given.equals(Given.OBJECT)) {
            return objects;
        }
        return (statement, i, batch, row, column) -> {
            String text = batch.text(row, column);
            if (given.isObject(text)) {
                statement.setObject(i, JavaTimeCells.value(type.name(), text));
            } else {
                statement.setString(i, written(text));
            }
        };
    }

    /** A time as ISO/IEC 9075-2 writes it. */
    static String written(String text) {
        return text.replace('T', ' ').replace("Z", "+00:00");
    }
}
