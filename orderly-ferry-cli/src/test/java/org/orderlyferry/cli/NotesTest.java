package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.json.JsonMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is said of many tables in the same words is said once, of all of them, and nothing is missing from it. */
class NotesTest {

    private static final String SAID = ": has no definitions; its types and key were proposed from its values";

    @TempDir
    private Path folder;

    private Path files;

    @BeforeEach
    void makeAFolder() throws Exception {
        files = Files.createDirectory(folder.resolve("sheets"));
    }

    private void tables(int count) throws Exception {
        for (int i = 0; i < count; i++) {
            Files.writeString(files.resolve("sheet" + (100 + i) + ".csv"), "id,height\n1,12.5\n2,7.25\n");
        }
    }

    private Ferry load(Object... more) {
        Object[] all = new Object[3 + more.length];
        all[0] = "load";
        all[1] = files;
        all[2] = folder.resolve("h.sqlite");
        System.arraycopy(more, 0, all, 3, more.length);
        return Ferry.run(all);
    }

    private static List<String> lines(Ferry ferry) {
        return Arrays.asList(ferry.out().split("\n"));
    }

    @Test
    void whatIsTrueOfManyIsSaidOnceWithAllTheirNames() throws Exception {
        tables(5);
        List<String> lines = lines(load());
        assertThat(lines).contains("To be known (10)");
        assertThat(lines).filteredOn(l -> l.contains(SAID)).hasSize(1).allMatch(l -> l.startsWith("  sheet100"));
        assertThat(lines)
                .contains(
                        "    the same of 4 more: sheet101, sheet102, sheet103, sheet104",
                        "    the same of 4 more: sheet101.height, sheet102.height, sheet103.height, sheet104.height");
    }

    @Test
    void twoStandSideBySide() throws Exception {
        tables(2);
        List<String> lines = lines(load());
        assertThat(lines).filteredOn(l -> l.contains(SAID)).hasSize(2);
        assertThat(lines).noneMatch(l -> l.contains("the same of"));
    }

    @Test
    void whatIsSaidOnceInOtherWordsIsNotAmongThem() throws Exception {
        tables(4);
        Files.writeString(files.resolve("wide.csv"), "id,height\n1,12.123456\n");
        List<String> lines = lines(load());
        assertThat(lines).anyMatch(l -> l.startsWith("  wide.height: its numbers (DECIMAL(18,6)) become text"));
        assertThat(lines).contains("    the same of 3 more: sheet101.height, sheet102.height, sheet103.height");
    }

    @Test
    void whoWantsThousandsOfNamesAsksAsAMachine() throws Exception {
        tables(60);
        String shown = IntStream.range(1, 51).mapToObj(i -> "sheet" + (100 + i)).collect(Collectors.joining(", "));
        assertThat(lines(load())).contains("    the same of 59 more: " + shown + " … and 9 others; --json names each");
        Ferry json = load("--onto", "replace", "--json");
        assertThat(new JsonMapper().readTree(json.out()).findValuesAsText("text"))
                .filteredOn(t -> t.startsWith("has no definitions"))
                .hasSize(60);
    }
}
