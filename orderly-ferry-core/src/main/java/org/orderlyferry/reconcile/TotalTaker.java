package org.orderlyferry.reconcile;

import java.math.BigDecimal;
import java.util.Arrays;
import java.util.Optional;
import java.util.OptionalLong;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.Utf8;

/** Takes one column's control totals in passing. Not safe for use by several threads. */
final class TotalTaker {

    private final TotalKind kind;
    private long values;
    private long nulls;
    private byte[] smallest;
    private byte[] largest;
    private BigDecimal smallestNumber;
    private BigDecimal largestNumber;
    private long whole;
    private BigDecimal sum = BigDecimal.ZERO;
    private long length;

    TotalTaker(TotalKind kind) {
        this.kind = kind;
    }

    void add(Records batch, int column) {
        for (int row = 0; row < batch.rows(); row++) {
            int end = batch.end(row, column);
            if (end < 0) {
                nulls++;
            } else {
                values++;
                add(batch.bytes(), batch.start(row, column), end);
            }
        }
    }

    private void add(byte[] bytes, int start, int end) {
        switch (kind) {
            case NUMBER -> number(bytes, start, end);
            case TEXT -> {
                int last = end;
                while (last > start && bytes[last - 1] == ' ') {
                    last--;
                }
                length += Utf8.characters(bytes, start, last);
                ordered(bytes, start, last);
            }
            case ORDERED -> ordered(bytes, start, end);
            case BYTES -> length += end - start;
            case COUNTED -> {
                // that was all
            }
        }
    }

    private void number(byte[] bytes, int start, int end) {
        String text = new String(bytes, start, end - start, java.nio.charset.StandardCharsets.US_ASCII);
        if (text.equals("NaN") || text.endsWith("INF")) {
            return;
        }
        BigDecimal number = new BigDecimal(text);
        if (smallestNumber == null || number.compareTo(smallestNumber) < 0) {
            smallestNumber = number;
        }
        if (largestNumber == null || number.compareTo(largestNumber) > 0) {
            largestNumber = number;
        }
        if (number.scale() == 0 && end - start < 16 && Math.abs(whole) < Long.MAX_VALUE / 2) {
            // most numbers are small and whole
            whole += number.longValue();
        } else {
            sum = sum.add(number);
        }
    }

    /** UTF-8 sorts as its code points do, and dates and times as they stand. */
    private void ordered(byte[] bytes, int start, int end) {
        if (smallest == null || Arrays.compareUnsigned(bytes, start, end, smallest, 0, smallest.length) < 0) {
            smallest = Arrays.copyOfRange(bytes, start, end);
        }
        if (largest == null || Arrays.compareUnsigned(bytes, start, end, largest, 0, largest.length) > 0) {
            largest = Arrays.copyOfRange(bytes, start, end);
        }
    }

    /** Adds what another one has taken of the same column. */
    void add(TotalTaker other) {
        values += other.values;
        nulls += other.nulls;
        length += other.length;
        sum = sum.add(other.sum).add(BigDecimal.valueOf(other.whole));
        if (other.smallest != null) {
            ordered(other.smallest, 0, other.smallest.length);
            ordered(other.largest, 0, other.largest.length);
        }
        if (other.smallestNumber != null) {
            smallestNumber = smallestNumber == null ? other.smallestNumber : smallestNumber.min(other.smallestNumber);
            largestNumber = largestNumber == null ? other.largestNumber : largestNumber.max(other.largestNumber);
        }
    }

    ColumnTotal total() {
        boolean number = kind == TotalKind.NUMBER;
        return new ColumnTotal(
                values,
                nulls,
                number ? Optional.ofNullable(smallestNumber).map(TotalTaker::plain) : text(smallest),
                number ? Optional.ofNullable(largestNumber).map(TotalTaker::plain) : text(largest),
                number ? Optional.of(trimmed(sum.add(BigDecimal.valueOf(whole)))) : Optional.empty(),
                kind == TotalKind.TEXT || kind == TotalKind.BYTES ? OptionalLong.of(length) : OptionalLong.empty());
    }

    private static Optional<String> text(byte[] value) {
        return Optional.ofNullable(value).map(v -> new String(v, java.nio.charset.StandardCharsets.UTF_8));
    }

    private static BigDecimal trimmed(BigDecimal number) {
        BigDecimal bare = number.stripTrailingZeros();
        return bare.scale() < 0 && bare.precision() - bare.scale() < 60 ? bare.setScale(0) : bare;
    }

    private static String plain(BigDecimal number) {
        BigDecimal bare = trimmed(number);
        return Math.abs(bare.scale()) < 60 ? bare.toPlainString() : bare.toString();
    }
}
