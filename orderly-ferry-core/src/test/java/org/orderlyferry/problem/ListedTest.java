package org.orderlyferry.problem;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class ListedTest {

    @Test
    void thousandsOfNamesStayASentence() {
        assertThat(Listed.of(IntStream.range(0, 3).boxed().toList())).isEqualTo("0, 1, 2");
        assertThat(Listed.of(IntStream.range(0, 20).boxed().toList())).endsWith("18, 19");
        assertThat(Listed.of(IntStream.range(0, 3_000).boxed().toList())).endsWith("18, 19 and 2980 more");
        assertThat(Listed.of(IntStream.range(0, 21).boxed().toList(), "\n  ")).endsWith("\n  19\n  and 1 more");
        assertThat(Listed.of(IntStream.range(0, 21).boxed().toList(), "; ")).endsWith("; 19 and 1 more");
    }
}
