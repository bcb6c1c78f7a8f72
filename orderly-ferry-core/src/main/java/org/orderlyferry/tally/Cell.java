package org.orderlyferry.tally;

import java.nio.charset.StandardCharsets;

/** One value's bytes on their way into comparison form; used again for each value. */
final class Cell {
    byte[] bytes = {};
    int start;
    int end;

    void set(byte[] newBytes, int newStart, int newEnd) {
        bytes = newBytes;
        start = newStart;
        end = newEnd;
    }

    void set(byte[] newBytes) {
        set(newBytes, 0, newBytes.length);
    }

    String text() {
        return new String(bytes, start, end - start, StandardCharsets.UTF_8);
    }

    void text(String text) {
        set(text.getBytes(StandardCharsets.UTF_8));
    }
}
