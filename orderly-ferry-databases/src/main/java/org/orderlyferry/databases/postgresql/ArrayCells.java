package org.orderlyferry.databases.postgresql;

import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.InvalidValueException;

/** How PostgreSQL is asked for arrays: as JSON, whose elements are those of the array, each as its value text. */
final class ArrayCells extends BinaryField {

    /** The bounds of an array that counts its elements from another number than 1, for which JSON has no word. */
    private static final String OTHER_BOUNDS = " ~ '[[](?!1:)|[[].*[[](?!1:)'";

    /** The expression that gives the array, or its bounds in its place. */
    static String selected(ColumnDefinition column, String name) {
        String elements =
                switch (column.type().element().name()) {
                    // one that is JSON itself would be taken for a part of the array, and a record for an object
                    case JSON -> name + "::text[]";
                    case CLOB -> PostgresTypes.texts(column.sourceType(), name);
                    // amounts of money have the signs of a currency
                    case DECIMAL -> name + "::numeric[]";
                    default -> name;
                };
        return "CASE WHEN array_dims(" + name + ")" + OTHER_BOUNDS + " THEN array_dims(" + name + ") ELSE to_json("
                + elements + ")::text END";
    }

    static CellReader reader() {
        return (row, i, batch) -> {
            String text = row.getString(i);
            if (text != null && isBounds(text.length(), text::charAt)) {
                throw otherBounds();
            }
            CellReader.text(text, batch);
        };
    }

    @Override
    void read(byte[] b, int start, int length, RecordBatch batch) throws InvalidValueException {
        if (isBounds(length, i -> (char) b[start + i])) {
            throw otherBounds();
        }
        batch.add(b, start, start + length);
    }

    private static InvalidValueException otherBounds() {
        return InvalidValueException.outOfRange("is the range of an array that doesn't count from 1, as all others do");
    }

    private interface Text {
        char at(int index);
    }

    /** Whether it is {@code [0:2]} or the like, and no JSON: there nothing that begins with a number has a colon next. */
    private static boolean isBounds(int length, Text text) {
        int at = 1;
        while (at < length && (text.at(at) >= '0' && text.at(at) <= '9' || text.at(at) == '-')) {
            at++;
        }
        return at < length && text.at(at) == ':';
    }
}
