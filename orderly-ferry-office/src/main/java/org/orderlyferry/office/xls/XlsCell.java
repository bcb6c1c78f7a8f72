package org.orderlyferry.office.xls;

import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.office.sheet.CellKind;
import org.orderlyferry.office.sheet.CellNumbers;

/**
 * A cell's value.
 *
 * @param raw as a person sees it
 * @param number the number that it is; null for another value
 */
record XlsCell(CellKind kind, String raw, @Nullable BigDecimal number) {

    static final XlsCell NOTHING = new XlsCell(CellKind.NOTHING, "", null);

    static XlsCell text(String text) {
        return new XlsCell(CellKind.TEXT, text, null);
    }

    static XlsCell truth(boolean value) {
        return new XlsCell(CellKind.TRUTH, Boolean.toString(value), null);
    }

    static XlsCell error(String error) {
        return new XlsCell(CellKind.ERROR, error, null);
    }

    /** A number as it is shown in a format. */
    static XlsCell number(double value, @Nullable String format) {
        if (!Double.isFinite(value)) {
            return error(Double.toString(value));
        }
        BigDecimal seen = CellNumbers.seen(new BigDecimal(Double.toString(value)));
        CellKind kind = format == null ? CellKind.NUMBER : CellNumbers.kind(seen, format);
        return new XlsCell(kind, seen.toString(), seen);
    }

    String text(LogicalType type, boolean from1904) {
        return number == null ? raw : CellNumbers.text(number, kind, type, from1904);
    }
}
