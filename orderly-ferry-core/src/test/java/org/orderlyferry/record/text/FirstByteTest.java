package org.orderlyferry.record.text;

import static org.assertj.core.api.Assertions.assertThat;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.ByteRange;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;

class FirstByteTest {

    @Property(tries = 5_000)
    void itIsWhereLookingAtEachFindsIt(
            @ForAll @ByteRange(min = -2, max = 2) byte wanted,
            @ForAll @Size(max = 40) byte[] bytes,
            @ForAll @IntRange(max = 40) int from,
            @ForAll @IntRange(max = 40) int to) {
        int start = Math.min(from, bytes.length);
        int end = Math.max(start, Math.min(to, bytes.length));
        int first = start;
        while (first < end && bytes[first] != wanted) {
            first++;
        }
        assertThat(FirstByte.of(wanted, bytes, start, end)).isEqualTo(first);
    }
}
