package org.orderlyferry.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import org.junit.jupiter.api.Test;

/** The page about findings has each code that there is. */
class FindingsPageTest {

    private static final Path PAGE = Path.of("..", "docs", "findings.md");

    private static String page() {
        StringBuilder page = new StringBuilder(
                """
                # Findings

                What a command tells besides its result has a code, which `--json` gives beside the text and which stays the same
                whatever the text says. This page is printed from the code and compared with it by a test. To write it anew:
                `mvn test -pl orderly-ferry-core -Dtest=FindingsPageTest -Dferry.write.docs=true`.

                An *error* says that the work would not be done, or not wholly; a *warning* that it is done and something is otherwise
                than it was; a *note* that nothing is otherwise.

                | code | severity | what it is about |
                |---|---|---|
                """);
        for (FindingCode code : FindingCode.values()) {
            page.append("| `")
                    .append(code)
                    .append("` | ")
                    .append(code.severity().name().toLowerCase(Locale.ROOT))
                    .append(" | ")
                    .append(code.meaning())
                    .append(" |\n");
        }
        return page.toString();
    }

    @Test
    void thePageHasEachCode() throws IOException {
        if (Boolean.getBoolean("ferry.write.docs")) {
            Files.writeString(PAGE, page());
        }
        assertThat(Files.readString(PAGE)).isEqualTo(page());
    }

    @Test
    void codesStandInOrderOfTheirSeverity() {
        FindingCode[] codes = FindingCode.values();
        for (int i = 1; i < codes.length; i++) {
            assertThat(codes[i].severity()).isGreaterThanOrEqualTo(codes[i - 1].severity());
        }
    }
}
