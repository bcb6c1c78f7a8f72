package org.orderlyferry.databases.lane;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

class EscapedBytesTest {

    /** What a server does with a field: the other direction, as simple as it can be said. */
    private static String taken(byte[] field, int length) {
        StringBuilder text = new StringBuilder();
        String escaped = new String(field, 0, length, StandardCharsets.ISO_8859_1);
        for (int i = 0; i < escaped.length(); i++) {
            char c = escaped.charAt(i);
            assertThat(c).as("an end within the field").isNotIn('\t', '\n', '\r', '\0');
            if (c != '\\') {
                text.append(c);
            } else {
                char letter = escaped.charAt(++i);
                text.append(
                        switch (letter) {
                            case 'n' -> '\n';
                            case 'r' -> '\r';
                            case 't' -> '\t';
                            case '0' -> '\0';
                            default -> letter;
                        });
            }
        }
        return text.toString();
    }

    @Property(tries = 2_000)
    void whatIsEscapedIsTakenForWhatItWas(@ForAll byte[] any, @ForAll @IntRange(max = 9) int from) {
        int start = Math.min(from, any.length);
        EscapedBytes lines = new EscapedBytes(16);
        lines.text(any, start, any.length);

        String was = new String(any, start, any.length - start, StandardCharsets.ISO_8859_1);
        assertThat(taken(lines.bytes(), lines.length())).isEqualTo(was);
    }

    @Test
    void eachByteIsSeenAtEachPlaceOfEight() {
        for (int c = 0; c < 256; c++) {
            for (int place = 0; place < 8; place++) {
                byte[] eight = "aaaaaaaa".getBytes(StandardCharsets.US_ASCII);
                eight[place] = (byte) c;
                EscapedBytes lines = new EscapedBytes(16);
                lines.text(eight, 0, 8);
                boolean escaped = c == '\\' || c == '\n' || c == '\r' || c == '\t' || c == 0;
                assertThat(lines.length()).as("%d at %d", c, place).isEqualTo(escaped ? 9 : 8);
            }
        }
    }

    @Test
    void aRowOfManyNullsMakesItsOwnRoom() {
        EscapedBytes lines = new EscapedBytes(16);
        for (int i = 0; i < 100_000; i++) {
            lines.putNull();
            lines.put('\t');
        }
        assertThat(lines.length()).isEqualTo(300_000);
        assertThat(lines.isFull()).isTrue();
        lines.clear();
        assertThat(lines.length()).isZero();
        assertThat(lines.bytes().length).as("what it grew to is let go").isLessThan(300_000);
    }

    @Test
    void bytesAreDigits() {
        EscapedBytes lines = new EscapedBytes(16);
        lines.hex(new byte[] {0, (byte) 0xFF, 0x5C}, 0, 3);
        assertThat(new String(lines.bytes(), 0, lines.length(), StandardCharsets.US_ASCII))
                .isEqualTo("00ff5c");
    }
}
