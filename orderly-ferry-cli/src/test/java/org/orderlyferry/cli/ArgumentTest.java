package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.CharRange;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ArgumentTest {

    @ParameterizedTest
    @CsvSource(
            quoteCharacter = '"',
            value = {
                "set, set",
                "ferry-demo/herbarium.sqlite, ferry-demo/herbarium.sqlite",
                "loan-*.csv, 'loan-*.csv'",
                "jdbc:h2:old;USER=sa, 'jdbc:h2:old;USER=sa'",
                "two words, 'two words'",
                "it's, 'it'\\''s'",
                "-rf, -rf",
            })
    void onlyWhatAShellWouldTakeOtherwiseIsQuoted(String text, String shown) {
        assertThat(Argument.of(text)).isEqualTo(shown);
    }

    @Property(tries = 60)
    void aShellGivesItBack(@ForAll @StringLength(min = 1, max = 30) @CharRange(from = ' ', to = '~') String text)
            throws Exception {
        Process shell = new ProcessBuilder("sh", "-c", "printf %s " + Argument.of(text)).start();
        assertThat(new String(shell.getInputStream().readAllBytes(), StandardCharsets.UTF_8))
                .isEqualTo(text);
    }
}
