package org.orderlyferry.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.cli.Console;
import org.orderlyferry.cli.FerryCommand;
import org.orderlyferry.cli.Terminal;
import org.orderlyferry.progress.StopSignal;

/** What the tutorial shows is what comes back, but for times, sizes on disks, and lines that it leaves out with {@code …}. */
class TutorialTest {

    private static final Pattern BLOCK = Pattern.compile("(?s)```(?:csv)?\n(.*?)```");

    /** Runs commands in the folder of its process, one after the other. */
    static final class Steps {

        private Steps() {}

        public static void main(String[] commands) {
            PrintWriter out = new PrintWriter(System.out, true, StandardCharsets.UTF_8);
            PrintWriter progress = new PrintWriter(System.err, true, StandardCharsets.UTF_8);
            for (String command : commands) {
                out.println("$ ferry " + command);
                FerryCommand.run(new Console(out, progress, Terminal.NONE, new StopSignal()), command.split(" "));
                out.flush();
            }
        }
    }

    @TempDir
    private Path folder;

    private static String shaped(String text) {
        return text.replaceAll("\\d{4}-\\d\\d-\\d\\dT\\d\\d-\\d\\d-\\d\\d", "MOMENT")
                .replaceAll("about \\d+\\.\\d s|less than a second", "about TIME")
                .replaceAll("\\d+\\.\\d s", "TIME")
                // how a database lays out its file, and how much room a disk has
                .replaceAll("\\d+(\\.\\d+)? ([kMGT]?B)\\b", "SIZE")
                .replaceAll("─+", "─")
                .replaceAll(" +", " ")
                .replaceAll(" +\n", "\n")
                .strip();
    }

    /** A block of the page as a pattern. */
    private static Pattern pattern(String block) {
        StringBuilder pattern = new StringBuilder();
        for (String line : shaped(block).split("\n")) {
            pattern.append(line.equals("…") ? "(?:.*\n)*?" : Pattern.quote(line) + "\n");
        }
        return Pattern.compile(pattern.toString());
    }

    @Test
    void itsOutputsAreReal() throws Exception {
        List<String> commands = new ArrayList<>();
        List<String> blocks = new ArrayList<>();
        Matcher block = BLOCK.matcher(Files.readString(Path.of("..", "docs", "tutorial.md")));
        while (block.find()) {
            String text = block.group(1);
            if (text.startsWith("$ ferry ")) {
                commands.add(text.substring("$ ferry ".length(), text.indexOf('\n')));
                blocks.add(text);
            } else {
                Files.writeString(folder.resolve("loan.csv"), text);
            }
        }
        assertThat(commands).hasSizeGreaterThan(8);
        List<String> process = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-cp",
                System.getProperty("java.class.path"),
                Steps.class.getName()));
        process.addAll(commands);
        Path said = folder.resolve("said.txt");
        Process running = new ProcessBuilder(process)
                .directory(folder.toFile())
                .redirectOutput(said.toFile())
                .redirectError(folder.resolve("progress.txt").toFile())
                .start();
        assertThat(running.waitFor(180, TimeUnit.SECONDS)).isTrue();
        String all = Files.readString(said).replace(folder.toRealPath().toString(), "/home/keeper/migration");
        String[] outputs = all.split("(?m)^(?=\\$ ferry )");
        assertThat(outputs).hasSize(commands.size());
        for (int i = 0; i < outputs.length; i++) {
            assertThat(shaped(outputs[i]) + "\n").matches(pattern(blocks.get(i)));
        }
    }
}
