package org.orderlyferry.profile;

import java.util.Arrays;
import org.orderlyferry.record.text.Digits;

/** Whether each value is larger than the one before it, so that all are different, however many there are. */
final class Ascent {

    private static final int MOST_DIGITS = 18;

    private boolean numbers = true;
    private boolean texts = true;
    private long lastNumber = Long.MIN_VALUE;
    private byte[] last = new byte[32];
    private int length = -1;

    void add(byte[] bytes, int start, int end, ValueKind kind) {
        if (numbers) {
            numbers = kind == ValueKind.WHOLE && end - start <= MOST_DIGITS && isLarger(Digits.read(bytes, start, end));
        }
        if (texts) {
            texts = length < 0 || Arrays.compareUnsigned(bytes, start, end, last, 0, length) > 0;
            keep(bytes, start, end);
        }
    }

    private boolean isLarger(long number) {
        boolean larger = number > lastNumber;
        lastNumber = number;
        return larger;
    }

    private void keep(byte[] bytes, int start, int end) {
        length = end - start;
        if (length > last.length) {
            last = new byte[length * 2];
        }
        System.arraycopy(bytes, start, last, 0, length);
    }

    boolean holds() {
        return numbers || texts;
    }
}
