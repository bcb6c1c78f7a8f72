package org.orderlyferry.databases.postgresql;

import java.util.Locale;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.lane.StandardCells;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.text.InvalidValueException;

/** How PostgreSQL gives and takes values: as text wherever it can, since its text is almost the proper one. */
final class PostgresCells {

    /** A time of PostgreSQL's alone; ISO/IEC 9075-2 has hours up to 23. */
    static final String LATE_MIDNIGHT = "24:00:00";

    private static final String BEFORE_CHRIST = " BC";

    private PostgresCells() {}

    static CellReader reader(LogicalType type) {
        return switch (type.name()) {
            case DECIMAL -> (row, i, batch) -> CellReader.text(number(row.getString(i)), batch);
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                (row, i, batch) -> CellReader.text(proper(row.getString(i)), batch);
            case ARRAY -> ArrayCells.reader();
            default -> StandardCells.reader(type);
        };
    }

    private static String number(String text) throws InvalidValueException {
        if (text != null && (text.equals("NaN") || text.endsWith("Infinity"))) {
            throw InvalidValueException.outOfRange("is no decimal number that another system could hold");
        }
        return text;
    }

    static InvalidValueException lateMidnight() {
        return InvalidValueException.outOfRange("is no time of day that another system could hold");
    }

    /** {@code 2031-04-09 07:30:00.25+00} as {@code 2031-04-09T07:30:00.25Z}, and the year 1 BC as the year 0. */
    private static String proper(String text) throws InvalidValueException {
        if (text == null) {
            return null;
        }
        if (text.endsWith("infinity")) {
            throw InvalidValueException.outOfRange("is no date that another system could hold");
        }
        if (text.equals(LATE_MIDNIGHT)) {
            throw lateMidnight();
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
            iso = (year == 0 ? "0000" : String.format(Locale.ROOT, "-%04d", year)) + iso.substring(hyphen);
        }
        return iso;
    }

    /** The text as PostgreSQL reads it: years before 1 count backwards, with BC. */
    static String own(String text, LogicalType type) {
        if (type.name() == TypeName.TIME || !text.startsWith("-") && !text.startsWith("0000")) {
            return text;
        }
        int hyphen = text.indexOf('-', 1);
        int year = 1 - Integer.parseInt(text.substring(0, hyphen));
        return String.format(Locale.ROOT, "%04d", year) + text.substring(hyphen) + BEFORE_CHRIST;
    }
}
