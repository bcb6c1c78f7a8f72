package org.orderlyferry.databases.mariadb;

import java.nio.charset.StandardCharsets;
import org.orderlyferry.databases.CellBinder;
import org.orderlyferry.databases.CellReader;
import org.orderlyferry.databases.StandardCells;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.InvalidValueException;
import org.orderlyferry.record.JavaValues;
import org.orderlyferry.record.ValueText;

/** How MariaDB's driver gives and takes values. */
final class MariaCells {

    private MariaCells() {}

    static CellReader reader(LogicalType type) {
        ValueText valueText = ValueText.of(type);
        return switch (type.name()) {
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                (row, i, batch) -> {
                    String text = row.getString(i);
                    CellReader.text(text == null ? null : proper(text, valueText), batch);
                };
            // the server sends UTF-8, and no text of Java's has to come in between
            case CHARACTER, VARCHAR, CLOB, JSON, XML, UUID ->
                (row, i, batch) -> CellReader.bytes(row.getBytes(i), batch);
            default -> StandardCells.reader(type);
        };
    }

    /** {@code 2031-04-09 07:30:00.250000} as {@code 2031-04-09T07:30:00.25}; zero dates are no dates. */
    private static String proper(String text, ValueText valueText) throws InvalidValueException {
        String iso = text.replace(' ', 'T');
        if (iso.indexOf('.') > 0) {
            iso = iso.replaceFirst("\\.?0+$", "");
        }
        if (valueText.type().name() == TypeName.TIMESTAMP_WITH_TIME_ZONE) {
            iso += 'Z';
        }
        byte[] bytes = iso.getBytes(StandardCharsets.UTF_8);
        if (!valueText.isProper(bytes, 0, bytes.length)) {
            throw InvalidValueException.outOfRange("is no " + valueText.type() + " that another system could hold");
        }
        return iso;
    }

    static CellBinder binder(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN ->
                (statement, i, batch, row, column) ->
                        statement.setInt(i, batch.bytes()[batch.start(row, column)] == 't' ? 1 : 0);
            case REAL ->
                (statement, i, batch, row, column) ->
                        statement.setFloat(i, JavaValues.floatOf(batch.text(row, column)));
            case DOUBLE ->
                (statement, i, batch, row, column) ->
                        statement.setDouble(i, JavaValues.doubleOf(batch.text(row, column)));
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                (statement, i, batch, row, column) -> statement.setString(
                        i, batch.text(row, column).replace('T', ' ').replace("Z", ""));
            default -> StandardCells.binder(type);
        };
    }
}
