package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.format.Setting;

/** The page about formats is what the formats say of themselves. */
class FormatsPageTest {

    private static final Path PAGE = Path.of("..", "docs", "formats.md");

    private static String page() {
        StringBuilder page = new StringBuilder(
                """
                # Formats

                This page is printed from the code and compared with it by a test. To write it anew: `mvn test -pl
                orderly-ferry-cli -am -Dtest=FormatsPageTest -Dferry.write.docs=true
                -Dsurefire.failIfNoSpecifiedTests=false`.

                Each can be read and written, and converts to every other: `ferry convert FROM TO`. What a file is, its first bytes
                and its name's ending tell, unless `--format` (or `--from-format`, `--to-format`) does. Files may be compressed with
                gzip or Zstandard (`.gz`, `.zst`); a whole export set may be one file (`.zip`, `.tar.gz`, `.tar.zst`), of which a
                `.zip` is read where it stands. A file that expands to more than 500 times its size is not read on. Several
                files of one format are one table by a pattern in quotes, such as `'loan-*.csv'`.

                Settings are given with `--setting NAME=VALUE` (`--from-setting` and `--to-setting` in `convert`).

                | format | endings | tables in a file | definitions |
                |---|---|---|---|
                """);
        for (FileFormat format : FileFormats.all()) {
            page.append("| ")
                    .append(format.name())
                    .append(" | ")
                    .append(format.endings().stream().map(e -> "`." + e + "`").collect(Collectors.joining(" ")))
                    .append(" | ")
                    .append(format.holdsSeveralTables() ? "several" : "one")
                    .append(" | ")
                    .append(cell(format.keeps().definitions()))
                    .append(" |\n");
        }
        for (FileFormat format : FileFormats.all()) {
            format(format, page);
        }
        return page.toString();
    }

    private static void format(FileFormat format, StringBuilder page) {
        Keeps keeps = format.keeps();
        page.append("\n## ")
                .append(format.name())
                .append("\n\n- Values: ")
                .append(keeps.values())
                .append(".\n- Null: ")
                .append(keeps.nulls())
                .append(".\n");
        keeps.losses().forEach(l -> page.append("- Not kept: ").append(l).append(".\n"));
        if (!format.settings().isEmpty()) {
            page.append("\n| setting | if nothing is said | meaning |\n|---|---|---|\n");
        }
        for (Setting setting : format.settings()) {
            page.append("| `")
                    .append(setting.name())
                    .append("` | ")
                    .append(setting.otherwise().isEmpty() ? "" : "`" + cell(setting.otherwise()) + "`")
                    .append(" | ")
                    .append(cell(setting.meaning()))
                    .append(" |\n");
        }
    }

    private static String cell(String text) {
        return text.replace("|", "\\|");
    }

    @Test
    void thePageSaysWhatTheFormatsSay() throws Exception {
        String page = page();
        if (Boolean.getBoolean("ferry.write.docs")) {
            Files.writeString(PAGE, page);
        }
        assertThat(Files.readString(PAGE)).isEqualTo(page);
    }
}
