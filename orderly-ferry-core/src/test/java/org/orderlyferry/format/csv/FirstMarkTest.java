package org.orderlyferry.format.csv;

import static org.assertj.core.api.Assertions.assertThat;

import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;

/** Marks are found where a plain loop finds them. */
class FirstMarkTest {

    @Provide
    Arbitrary<byte[]> values() {
        // marks and their neighbours: bytes that differ from one in a bit, or carry into one
        return Arbitraries.oneOf(
                        Arbitraries.bytes(),
                        Arbitraries.of(
                                (byte) ',',
                                (byte) '"',
                                (byte) '\n',
                                (byte) '\r',
                                (byte) '-',
                                (byte) '#',
                                (byte) 11,
                                (byte) 12,
                                (byte) 14,
                                (byte) 0,
                                (byte) 0x80,
                                (byte) 0xAC,
                                (byte) 0xA2,
                                (byte) 0x8A,
                                (byte) 0x8D,
                                (byte) 0xFF,
                                (byte) '+',
                                (byte) '!',
                                (byte) 'a'),
                        Arbitraries.just((byte) 'x'))
                .array(byte[].class)
                .ofMaxSize(40);
    }

    @Property(tries = 3_000, seed = "417")
    void aMarkIsFoundWhereAPlainLoopFindsIt(
            @ForAll("values") byte[] bytes, @ForAll @IntRange(max = 40) int from, @ForAll @IntRange(max = 40) int to) {
        int start = Math.min(Math.min(from, to), bytes.length);
        int end = Math.min(Math.max(from, to), bytes.length);
        FirstMark marks = new FirstMark((byte) ',', (byte) '"');
        int any = start;
        while (any < end && ",\"\n\r".indexOf(bytes[any] & 0xFF) < 0) {
            any++;
        }
        int quote = start;
        while (quote < end && bytes[quote] != '"') {
            quote++;
        }
        assertThat(marks.any(bytes, start, end)).isEqualTo(any);
        assertThat(marks.quote(bytes, start, end)).isEqualTo(quote);
    }
}
