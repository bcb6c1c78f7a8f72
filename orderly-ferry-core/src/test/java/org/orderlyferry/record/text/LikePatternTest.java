package org.orderlyferry.record.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

/** Patterns of LIKE mean what the same regular expressions mean, and take no longer for being full of percent signs. */
class LikePatternTest {

    private static final Optional<Integer> ESCAPE = Optional.of((int) '!');

    @Provide
    Arbitrary<String> texts() {
        return Arbitraries.of("a", "b", "A", "_", "%", "!", "\n", "\uD835\uDCB3", "ä")
                .list()
                .ofMaxSize(8)
                .map(l -> String.join("", l));
    }

    @Provide
    Arbitrary<String> patterns() {
        return Arbitraries.of("a", "b", "A", "_", "%", "%", "!%", "!_", "!!", "!a", "\n", "\uD835\uDCB3", "ä")
                .list()
                .ofMaxSize(8)
                .map(l -> String.join("", l));
    }

    @Property(tries = 5000)
    void theyMeanWhatRegularExpressionsDo(@ForAll("texts") String text, @ForAll("patterns") String pattern) {
        StringBuilder regex = new StringBuilder();
        for (int i = 0; i < pattern.length(); ) {
            int point = pattern.codePointAt(i);
            i += Character.charCount(point);
            if (point == '!') {
                point = pattern.codePointAt(i);
                i += Character.charCount(point);
                regex.append(Pattern.quote(Character.toString(point)));
            } else {
                regex.append(point == '%' ? ".*" : point == '_' ? "." : Pattern.quote(Character.toString(point)));
            }
        }
        LikePattern like = LikePattern.of(pattern, ESCAPE).orElseThrow();
        assertThat(like.matches(text, false)).isEqualTo(Pattern.matches("(?s)" + regex, text));
        assertThat(like.matches(text, true)).isEqualTo(Pattern.matches("(?siu)" + regex, text));
        assertThat(like.folded().matches(AsciiCase.small(text), false))
                .isEqualTo(Pattern.matches(
                        "(?s)"
                                + regex.toString()
                                        .toLowerCase(Locale.ROOT)
                                        .replace("\\q", "\\Q")
                                        .replace("\\e", "\\E"),
                        text.toLowerCase(Locale.ROOT)));
    }

    @Test
    void manyPercentSignsTakeNoLonger() {
        LikePattern like =
                LikePattern.of("%a".repeat(2_000) + "b", Optional.empty()).orElseThrow();
        assertThat(like.matches("a".repeat(20_000), false)).isFalse();
        assertThat(like.matches("a".repeat(20_000) + "b", false)).isTrue();
    }

    @Test
    void aPatternThatEndsInItsMiddleIsNone() {
        assertThat(LikePattern.of("moss!", ESCAPE)).isEmpty();
        assertThat(LikePattern.of("moss!", Optional.empty())).isPresent();
    }
}
