package org.orderlyferry.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.Writer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.orderlyferry.cli.Console;
import org.orderlyferry.cli.FerryCommand;
import org.orderlyferry.cli.Terminal;
import org.orderlyferry.progress.StopSignal;
import picocli.CommandLine;
import picocli.CommandLine.Help;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.Model.PositionalParamSpec;

/** The page about commands is what the commands say of themselves. */
class CommandsPageTest {

    private static final Path PAGE = Path.of("..", "docs", "commands.md");

    private static String page() {
        PrintWriter nowhere = new PrintWriter(Writer.nullWriter());
        CommandLine ferry = FerryCommand.line(new Console(nowhere, nowhere, Terminal.NONE, new StopSignal()));
        StringBuilder page = new StringBuilder(
                """
                # Commands

                This page is printed from the code and compared with it by a test. To write it anew: `mvn test -pl
                orderly-ferry-examples -am -Dtest=CommandsPageTest -Dferry.write.docs=true
                -Dsurefire.failIfNoSpecifiedTests=false`.

                """);
        page.append(paragraph(ferry.getCommandSpec())).append("\n\n| command | does |\n|---|---|\n");
        ferry.getSubcommands().forEach((name, command) -> page.append("| [`ferry ")
                .append(name)
                .append("`](#ferry-")
                .append(name)
                .append(") | ")
                .append(cell(command.getCommandSpec().usageMessage().description()))
                .append(" |\n"));
        page.append("\n## With every command\n\n");
        options(page, ferry.getCommandSpec().options());
        page.append("\n```text\n")
                .append(Arrays.stream(ferry.getCommandSpec().usageMessage().footer())
                        .map(l -> l.replace("$${", "${"))
                        .collect(Collectors.joining("\n"))
                        .strip())
                .append("\n```\n");
        ferry.getSubcommands().values().forEach(command -> command(page, command));
        return page.toString();
    }

    private static void command(StringBuilder page, CommandLine command) {
        CommandSpec spec = command.getCommandSpec();
        page.append("\n## ferry ").append(spec.name()).append("\n\n");
        page.append(paragraph(spec)).append("\n\n```text\nferry ").append(spec.name());
        spec.positionalParameters()
                .forEach(p -> page.append(' ').append(p.arity().min() == 0 ? "[" + label(p) + "]" : label(p)));
        page.append("\n```\n\n");
        if (!spec.positionalParameters().isEmpty()) {
            page.append("| | |\n|---|---|\n");
            for (PositionalParamSpec p : spec.positionalParameters()) {
                page.append("| `")
                        .append(label(p))
                        .append("` | ")
                        .append(cell(described(spec, p.description(), p.defaultValueString())))
                        .append(" |\n");
            }
            page.append('\n');
        }
        options(
                page,
                spec.options().stream()
                        .filter(o -> !o.inherited() && !o.usageHelp() && !o.versionHelp())
                        .toList());
        String example = String.join("\n", spec.usageMessage().footer()).strip();
        if (!example.isEmpty()) {
            page.append("\n```text\n").append(example).append("\n```\n");
        }
    }

    private static String label(PositionalParamSpec p) {
        return p.paramLabel() + (p.arity().max() > 1 ? "…" : "");
    }

    private static void options(StringBuilder page, List<OptionSpec> options) {
        if (options.isEmpty()) {
            return;
        }
        page.append("| option | |\n|---|---|\n");
        options.stream()
                .sorted((a, b) -> a.longestName().compareTo(b.longestName()))
                .forEach(o -> page.append("| `")
                        .append(String.join("`, `", o.names()))
                        .append(o.arity().max() == 0 ? "" : " " + o.paramLabel().replace("|", "\\|"))
                        .append("` | ")
                        .append(cell(described(o.command(), o.description(), o.defaultValueString())))
                        .append(" |\n"));
    }

    /** With its default in its place. */
    private static String[] described(CommandSpec spec, String[] description, String value) {
        return Arrays.stream(description)
                .map(d -> d.replace("${DEFAULT-VALUE}", value == null ? "" : value)
                        .replace("%%", "%"))
                .toArray(String[]::new);
    }

    private static String paragraph(CommandSpec spec) {
        return cell(spec.usageMessage().description()).replace("\\|", "|");
    }

    private static String cell(String... text) {
        return Help.Ansi.OFF.string(String.join(" ", text)).replace("|", "\\|").strip();
    }

    @Test
    void itSaysWhatTheCommandsSay() throws Exception {
        if (Boolean.getBoolean("ferry.write.docs")) {
            Files.writeString(PAGE, page());
        }
        assertThat(Files.readString(PAGE)).isEqualTo(page());
    }
}
