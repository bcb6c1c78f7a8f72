package org.orderlyferry.format.csv;

import org.orderlyferry.record.RecordBatch;

/**
 * A piece of a file with its marks. In front of it there is room for the record that the piece before left unfinished,
 * and behind it the room that a batch wants.
 */
final class Chunk {

    /** Bytes of a file in a chunk. */
    static final int SIZE = RecordBatch.TARGET_BYTES;

    /** Room in front. A longer unfinished record goes another, slower way. */
    static final int HEADROOM = 64 * 1024;

    byte[] bytes;
    /** Where the file's bytes begin. */
    int start;
    /** Where they end, exclusive. */
    int end;
    /** Whether the file ends with them. */
    boolean last;
    /** Places of the marks, {@link #count} of them; null where they are to be found later. */
    int[] marks;

    int count;
    /** The place of the first byte that isn't valid UTF-8, or -1. */
    int bad = -1;

    Chunk(byte[] bytes, int start, int end) {
        this.bytes = bytes;
        this.start = start;
        this.end = end;
    }

    static byte[] newBytes() {
        return new byte[HEADROOM + SIZE + RecordBatch.SLACK];
    }
}
