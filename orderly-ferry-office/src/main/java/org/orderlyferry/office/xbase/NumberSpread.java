package org.orderlyferry.office.xbase;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;

/**
 * What the numeric fields of a table really hold. A header tells of so many digits, and of so many behind the point; but a
 * field takes any number that fits its width, with the point wherever it is, and programs write such.
 */
final class NumberSpread {

    private final int[] whole;
    private final int[] fraction;
    private final boolean[] odd;
    private final List<XbaseField> fields;

    private NumberSpread(List<XbaseField> fields) {
        this.fields = fields;
        this.whole = new int[fields.size()];
        this.fraction = new int[fields.size()];
        this.odd = new boolean[fields.size()];
    }

    /** Looks at all records; what isn't whole is told when they are read. */
    static NumberSpread of(FileSource file, XbaseHeader header) throws IOException {
        NumberSpread spread = new NumberSpread(header.columns());
        if (spread.fields.stream().noneMatch(NumberSpread::isNumber)) {
            return spread;
        }
        byte[] record = new byte[header.recordLength()];
        try (InputStream in = new BufferedInputStream(file.open(), 128 * 1024)) {
            in.skipNBytes(header.length());
            for (long number = 0; number < header.records(); number++) {
                if (in.readNBytes(record, 0, record.length) < record.length) {
                    break;
                }
                if (record[0] != '*') {
                    spread.look(record, header);
                }
            }
        } catch (java.io.EOFException e) {
            // a file that ends before its records is told of when they are read
            return spread;
        }
        return spread;
    }

    private static boolean isNumber(XbaseField field) {
        return field.type() == 'N' || field.type() == 'F';
    }

    private void look(byte[] record, XbaseHeader header) {
        int at = 1;
        int column = 0;
        for (XbaseField field : header.fields()) {
            if (isNumber(field)) {
                look(new String(record, at, field.length(), StandardCharsets.ISO_8859_1).strip(), column);
            }
            at += field.length();
            column += field.type() == XbaseField.FLAGS ? 0 : 1;
        }
    }

    private void look(String text, int column) {
        int from = text.startsWith("-") || text.startsWith("+") ? 1 : 0;
        int point = -1;
        for (int i = from; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '.' && point < 0) {
                point = i;
            } else if (c < '0' || c > '9') {
                // an exponent, or what is no number
                odd[column] |= c == 'e' || c == 'E';
                return;
            }
        }
        int end = text.length();
        while (point >= 0 && end > point + 1 && text.charAt(end - 1) == '0') {
            end--;
        }
        whole[column] = Math.max(whole[column], (point < 0 ? text.length() : point) - from);
        fraction[column] = Math.max(fraction[column], point < 0 ? 0 : end - point - 1);
    }

    /** The type that holds all numbers of a field: the declared one where that does. */
    LogicalType type(int column) {
        XbaseField field = fields.get(column);
        LogicalType declared = field.logical();
        if (!isNumber(field)) {
            return declared;
        }
        if (odd[column]) {
            return LogicalType.of(TypeName.DECIMAL);
        }
        boolean fits = fraction[column] <= field.decimals() && whole[column] <= field.length() - field.decimals();
        if (fits) {
            return declared;
        }
        int scale = Math.max(fraction[column], field.decimals());
        return scale == 0 ? declared : LogicalType.decimal(Math.max(1, whole[column]) + scale, scale);
    }

    /** Fields whose numbers go beyond what the header tells. */
    List<Finding> findings(TableName table) {
        List<Finding> findings = new ArrayList<>();
        for (int i = 0; i < fields.size(); i++) {
            XbaseField field = fields.get(i);
            if (!type(i).equals(field.logical())) {
                findings.add(new Finding(
                        FindingCode.VALUE_ODD,
                        table,
                        field.name(),
                        "is declared with " + field.length() + " characters, " + field.decimals()
                                + " of them behind the point, and holds other numbers; it becomes " + type(i)));
            }
        }
        return findings;
    }
}
