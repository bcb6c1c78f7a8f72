package org.orderlyferry.databases.sqlite;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.record.text.ValueText;

/** Reads a value of SQLite, which may be of any kind whatever its column was declared as. */
final class SqliteCellReader implements CellReader {

    private static final char REPLACEMENT = '\uFFFD';

    private final LogicalType type;
    private final ValueText text;

    SqliteCellReader(LogicalType type) {
        this.type = type;
        this.text = ValueText.of(type);
    }

    @Override
    public void read(ResultSet row, int index, RecordBatch batch) throws SQLException, InvalidValueException {
        Object value = row.getObject(index);
        if (value == null) {
            batch.addNull();
        } else if (value instanceof byte[] bytes) {
            blob(bytes, batch);
        } else if (value instanceof String string) {
            string(string, row, index, batch);
        } else if (value instanceof Double number) {
            real(number, batch);
        } else {
            integer(((Number) value).longValue(), batch);
        }
    }

    /** The driver puts a sign of its own in the place of what is no text; that would be a value that isn't there. */
    private void string(String string, ResultSet row, int index, RecordBatch batch)
            throws SQLException, InvalidValueException {
        if (type.name().isBinary()) {
            batch.add(row.getBytes(index));
            return;
        }
        if (string.indexOf(REPLACEMENT) >= 0 && !isText(row.getBytes(index), string)) {
            throw new InvalidValueException("holds bytes that are no text in the database's encoding");
        }
        proper(string, batch);
    }

    private static boolean isText(byte[] bytes, String read) {
        for (Charset encoding : List.of(StandardCharsets.UTF_8, StandardCharsets.UTF_16LE, StandardCharsets.UTF_16BE)) {
            try {
                if (encoding.newDecoder()
                        .decode(ByteBuffer.wrap(bytes))
                        .toString()
                        .equals(read)) {
                    return true;
                }
            } catch (CharacterCodingException e) {
                // not in this one
            }
        }
        return false;
    }

    private void blob(byte[] bytes, RecordBatch batch) throws InvalidValueException {
        if (!type.name().isBinary()) {
            throw new InvalidValueException("is a BLOB, the column is " + type);
        }
        batch.add(bytes);
    }

    private void integer(long number, RecordBatch batch) throws InvalidValueException {
        switch (type.name()) {
            case BIGINT -> batch.add(number);
            case REAL, DOUBLE -> proper(JavaValues.text((double) number), batch);
            case BLOB -> batch.add(Long.toString(number).getBytes(StandardCharsets.US_ASCII));
            case BINARY, VARBINARY, DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                throw new InvalidValueException("is a number, the column is " + type);
            default -> proper(Long.toString(number), batch);
        }
    }

    private void real(double number, RecordBatch batch) throws InvalidValueException {
        switch (type.name()) {
            case DOUBLE, CHARACTER, VARCHAR, CLOB -> CellReader.text(JavaValues.text(number), batch);
            case BLOB -> batch.add(JavaValues.text(number).getBytes(StandardCharsets.US_ASCII));
            case REAL -> real((float) number, number, batch);
            case SMALLINT, INTEGER, BIGINT, DECIMAL, BOOLEAN -> proper(JavaValues.text(number), batch);
            default -> throw new InvalidValueException("is a number, the column is " + type);
        }
    }

    /** What a column of single precision was given is kept in double precision, and may have more digits. */
    private void real(float single, double number, RecordBatch batch) throws InvalidValueException {
        boolean whole = single == number
                || Double.isNaN(number)
                || JavaValues.text(single).equals(JavaValues.text(number));
        if (!whole) {
            throw new InvalidValueException("has more digits than " + type + " can hold");
        }
        CellReader.text(JavaValues.text(single), batch);
    }

    private void proper(String value, RecordBatch batch) throws InvalidValueException {
        String iso = value;
        if ((type.name() == TypeName.TIMESTAMP || type.name() == TypeName.TIMESTAMP_WITH_TIME_ZONE)
                && value.indexOf(' ') > 0) {
            iso = value.replace(' ', 'T');
        }
        if (type.name().isText()) {
            byte[] bytes = iso.getBytes(StandardCharsets.UTF_8);
            if (!text.isProper(bytes, 0, bytes.length)) {
                text.toProper(iso);
            }
            CellReader.text(iso, batch);
            return;
        }
        byte[] bytes = iso.getBytes(StandardCharsets.UTF_8);
        if (text.isProper(bytes, 0, bytes.length)) {
            batch.add(bytes);
        } else {
            CellReader.text(text.toProper(iso), batch);
        }
    }
}
