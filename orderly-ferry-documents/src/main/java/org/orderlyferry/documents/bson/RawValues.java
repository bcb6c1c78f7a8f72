package org.orderlyferry.documents.bson;

import java.nio.charset.StandardCharsets;
import org.bson.BsonBinarySubType;
import org.bson.BsonType;
import org.bson.types.ObjectId;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;

/**
 * Writes documents out of records' values, in their bytes (BSON 1.1), without values of the driver's in between. Not safe for use by
 * several threads.
 */
public final class RawValues {

    private final GrowingBytes out = new GrowingBytes();
    private final RawOfJson json = new RawOfJson(out);

    /** Begins the first document. */
    public void clear() {
        out.clear();
    }

    /** What has been written, as an array of its own. */
    public byte[] copy() {
        return out.copy();
    }

    /** How much has been written. */
    public int size() {
        return out.size();
    }

    /** Forgets what was written behind a place. */
    public void cut(int to) {
        out.cut(to);
    }

    /**
     * Begins a document.
     *
     * @return where, for {@link #end}
     */
    public int begin() {
        return out.begin();
    }

    /** Ends a document. */
    public void end(int start) {
        out.end(start);
    }

    /**
     * Names a field, whose value comes next.
     *
     * @param name in UTF-8
     * @return where its type goes, for {@link #type}
     */
    public int name(byte[] name) {
        int place = out.size();
        out.add(0);
        out.add(name);
        out.add(0);
        return place;
    }

    /** Says what a field is. */
    public void type(int place, BsonType type) {
        out.type(place, type);
    }

    /** Adds an id. */
    public void id(ObjectId id) {
        out.add(id.toByteArray());
    }

    /**
     * Adds a record's value, which is no null.
     *
     * @return its type
     * @throws InvalidValueException if no document could hold it; part of it may be written
     */
    public BsonType add(ColumnCells cells, Records batch, int row, int column) throws InvalidValueException {
        byte[] in = batch.bytes();
        int start = batch.start(row, column);
        int end = batch.end(row, column);
        switch (cells.held()) {
            case INT32 -> {
                out.int32(Integer.parseInt(ascii(in, start, end)));
                return BsonType.INT32;
            }
            case INT64 -> {
                out.int64(Long.parseLong(ascii(in, start, end)));
                return BsonType.INT64;
            }
            case DOUBLE -> {
                out.int64(Double.doubleToRawLongBits(JavaValues.doubleOf(ascii(in, start, end))));
                return BsonType.DOUBLE;
            }
            case BOOLEAN -> {
                out.add(in[start] == 't' ? 1 : 0);
                return BsonType.BOOLEAN;
            }
            case TEXT -> {
                out.int32(end - start + 1);
                out.add(in, start, end);
                out.add(0);
                return BsonType.STRING;
            }
            case DECIMAL -> {
                if (RawDecimals.encode(in, start, end, out)) {
                    return BsonType.DECIMAL128;
                }
            }
            case MOMENT -> {
                out.int64(cells.millis(ascii(in, start, end)));
                return BsonType.DATE_TIME;
            }
            case BYTES -> {
                out.int32(end - start);
                out.add(BsonBinarySubType.BINARY.getValue());
                out.add(in, start, end);
                return BsonType.BINARY;
            }
            case JSON -> {
                return json.write(in, start, end);
            }
            case OBJECT_ID, UUID -> {
                // by the driver's own values
            }
        }
        return json.add(cells.written(batch, row, column));
    }

    private static String ascii(byte[] in, int start, int end) {
        return new String(in, start, end - start, StandardCharsets.ISO_8859_1);
    }
}
