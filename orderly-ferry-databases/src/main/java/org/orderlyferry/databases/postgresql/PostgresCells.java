package org.orderlyferry.databases.postgresql;

import org.orderlyferry.databases.CellBinder;
import org.orderlyferry.databases.CellReader;
import org.orderlyferry.databases.StandardCells;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.InvalidValueException;

/** How PostgreSQL gives and takes values: as text wherever it can, since its text is almost the proper one. */
final class PostgresCells {

    private static final String BEFORE_CHRIST = " BC";

    private PostgresCells() {}

    static CellReader reader(LogicalType type) {
        return switch (type.name()) {
            case DECIMAL -> (row, i, batch) -> CellReader.text(number(row.getString(i)), batch);
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                (row, i, batch) -> CellReader.text(proper(row.getString(i)), batch);
            default -> StandardCells.reader(type);
        };
    }

    private static String number(String text) throws InvalidValueException {
        if (text != null && (text.equals("NaN") || text.endsWith("Infinity"))) {
            throw new InvalidValueException("is no decimal number that another system could hold");
        }
        return text;
    }

    /** {@code 2031-04-09 07:30:00.25+00} as {@code 2031-04-09T07:30:00.25Z}, and the year 1 BC as the year 0. */
    private static String proper(String text) throws InvalidValueException {
        if (text == null) {
            return null;
        }
        if (text.endsWith("infinity")) {
            throw new InvalidValueException("is no date that another system could hold");
        }
        String iso = text.replace(' ', 'T');
        boolean before = text.endsWith(BEFORE_CHRIST);
        if (before) {
            iso = iso.substring(0, iso.length() - BEFORE_CHRIST.length());
        }
        if (iso.endsWith("+00")) {
            iso = iso.substring(0, iso.length() - 3) + 'Z';
        }
        if (before) {
            int hyphen = iso.indexOf('-');
            int year = Integer.parseInt(iso.substring(0, hyphen)) - 1;
            iso = (year == 0 ? "0000" : String.format("-%04d", year)) + iso.substring(hyphen);
        }
        return iso;
    }

    static CellBinder binder(LogicalType type) {
        return switch (type.name()) {
            case BINARY, VARBINARY, BLOB ->
                (statement, i, batch, row, column) -> statement.setBytes(i, batch.copy(row, column));
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                (statement, i, batch, row, column) -> statement.setString(i, own(batch.text(row, column), type));
            case REAL, DOUBLE ->
                (statement, i, batch, row, column) ->
                        statement.setString(i, batch.text(row, column).replace("INF", "Infinity"));
            default ->
                (statement, i, batch, row, column) -> {
                    String text = batch.text(row, column);
                    if (text.indexOf('\0') >= 0) {
                        throw new InvalidValueException("holds a NUL character, which PostgreSQL's text can't");
                    }
                    statement.setString(i, text);
                };
        };
    }

    /** The text as PostgreSQL reads it: years before 1 count backwards, with BC. */
    private static String own(String text, LogicalType type) throws InvalidValueException {
        int point = text.indexOf('.');
        if (point > 0) {
            int digits = text.length() - point - 1 - (text.endsWith("Z") ? 1 : 0);
            if (digits > PostgresTypes.FRACTION) {
                throw new InvalidValueException("has more than " + PostgresTypes.FRACTION
                        + " digits of a second's fraction, which PostgreSQL would round");
            }
        }
        if (type.name() == TypeName.TIME || !text.startsWith("-") && !text.startsWith("0000")) {
            return text;
        }
        int hyphen = text.indexOf('-', 1);
        int year = 1 - Integer.parseInt(text.substring(0, hyphen));
        return String.format("%04d", year) + text.substring(hyphen) + BEFORE_CHRIST;
    }
}
