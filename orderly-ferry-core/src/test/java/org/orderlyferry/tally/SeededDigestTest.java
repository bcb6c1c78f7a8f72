package org.orderlyferry.tally;

import static org.assertj.core.api.Assertions.assertThat;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

/** A server's digest isn't taken for one of values, nor for one that was taken in another way. */
class SeededDigestTest {

    @Property
    void isReadAsItIsWritten(@ForAll long seed, @ForAll long high, @ForAll long low) {
        SeededDigest digest = new SeededDigest(seed, new Digest(high, low));
        assertThat(SeededDigest.parse(digest.toString())).contains(digest);
        assertThat(SeededDigest.isOfAnotherForm(digest.toString())).isFalse();
        assertThat(SeededDigest.parse(digest.digest().toString())).isEmpty();
        assertThat(SeededDigest.isOfAnotherForm(digest.digest().toString())).isFalse();
    }

    @Test
    void oneOfAnotherFormIsNone() {
        String digest = new SeededDigest(7, new Digest(1, 2)).toString();
        for (String other : new String[] {digest.replace(":2:", ":"), digest.replace(":2:", ":3:"), "server:"}) {
            assertThat(SeededDigest.parse(other)).isEmpty();
            assertThat(SeededDigest.isOfAnotherForm(other)).isTrue();
        }
    }
}
