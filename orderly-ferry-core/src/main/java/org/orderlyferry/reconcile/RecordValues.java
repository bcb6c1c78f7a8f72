package org.orderlyferry.reconcile;

import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.record.Records;

/** A copy of one record's values. Immutable but for what {@link #bytes} gives, which nobody may change. */
@NullMarked
public final class RecordValues {

    private final byte[] @Nullable [] values;

    private RecordValues(byte[] @Nullable [] values) {
        this.values = values;
    }

    static RecordValues of(Records batch, int row) {
        byte[][] values = new byte[batch.columns()][];
        for (int column = 0; column < values.length; column++) {
            values[column] = batch.copy(row, column);
        }
        return new RecordValues(values);
    }

    /** A value as it travels: text in UTF-8, or raw bytes; null for a null. */
    public byte @Nullable [] bytes(int column) {
        return values[column];
    }

    /** A value as text; null for a null. */
    public @Nullable String text(int column) {
        byte[] value = values[column];
        return value == null ? null : new String(value, StandardCharsets.UTF_8);
    }

    /** A value's bytes in hexadecimal digits; null for a null. */
    public @Nullable String hex(int column) {
        byte[] value = values[column];
        return value == null ? null : HexFormat.of().formatHex(value);
    }

    /** About how many bytes of memory it takes. */
    long size() {
        long size = 64;
        for (byte[] value : values) {
            size += 16 + (value == null ? 0 : value.length);
        }
        return size;
    }
}
