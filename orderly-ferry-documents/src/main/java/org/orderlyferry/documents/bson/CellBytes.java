package org.orderlyferry.documents.bson;

/** Where a value's text stands. Not safe for use by several threads. */
public final class CellBytes {

    /** The bytes of which it is a range. */
    public byte[] bytes = new byte[0];

    /** Where it begins. */
    public int start;

    /** Where it ends, exclusive; negative for a null. */
    public int end;

    void set(byte[] value) {
        set(value, 0, value.length);
    }

    void set(byte[] in, int from, int to) {
        bytes = in;
        start = from;
        end = to;
    }

    void setNull() {
        end = -1;
    }
}
