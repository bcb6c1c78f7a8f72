package org.orderlyferry.databases.mariadb;

import java.util.Arrays;
import org.orderlyferry.databases.dialect.CellBinder;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.lane.StandardCells;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.record.text.ValueText;

/** How MariaDB's driver gives and takes values. */
final class MariaCells {

    private static final int DATE_LENGTH = "2031-04-09".length();
    private static final int TIME_LENGTH = "07:30:00".length();

    private MariaCells() {}

    static CellReader reader(LogicalType type) {
        ValueText valueText = ValueText.of(type);
        return switch (type.name()) {
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                (row, i, batch) -> {
                    byte[] text = row.getBytes(i);
                    if (text == null) {
                        batch.addNull();
                    } else {
                        proper(text, valueText, batch);
                    }
                };
            case BOOLEAN ->
                (row, i, batch) -> {
                    int number = row.getInt(i);
                    if (number != 0 && number != 1) {
                        throw new InvalidValueException("is no truth value; the column was made for 0 and 1");
                    }
                    CellReader.text(row.wasNull() ? null : Boolean.toString(number == 1), batch);
                };
            case DECIMAL -> (row, i, batch) -> CellReader.text(row.getString(i), batch);
            // the server sends UTF-8, and no text of Java's has to come in between
            case CHARACTER, VARCHAR, CLOB, JSON, XML, UUID ->
                (row, i, batch) -> CellReader.bytes(row.getBytes(i), batch);
            default -> StandardCells.reader(type);
        };
    }

    /** {@code 2031-04-09 07:30:00.250000} as {@code 2031-04-09T07:30:00.25}; zero dates are no dates. */
    private static void proper(byte[] text, ValueText valueText, RecordBatch batch) throws InvalidValueException {
        int end = text.length;
        int seconds = valueText.type().name() == TypeName.TIME ? TIME_LENGTH : DATE_LENGTH + 1 + TIME_LENGTH;
        if (valueText.type().name() != TypeName.DATE) {
            // digits behind the second that say nothing
            while (end > seconds && (text[end - 1] == '0' || text[end - 1] == '.')) {
                end--;
            }
            if (seconds > TIME_LENGTH && text.length > DATE_LENGTH && text[DATE_LENGTH] == ' ') {
                text[DATE_LENGTH] = 'T';
            }
        }
        byte[] iso = text;
        if (valueText.type().name() == TypeName.TIMESTAMP_WITH_TIME_ZONE) {
            iso = Arrays.copyOf(text, end + 1);
            iso[end++] = 'Z';
        }
        if (!valueText.isProper(iso, 0, end)) {
            throw InvalidValueException.outOfRange("is no " + valueText.type() + " that another system could hold");
        }
        batch.add(iso, 0, end);
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
