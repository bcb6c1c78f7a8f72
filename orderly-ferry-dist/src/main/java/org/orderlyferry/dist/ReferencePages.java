package org.orderlyferry.dist;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.Writer;
import java.nio.file.Files;
import java.nio.file.Path;
import org.orderlyferry.cli.Console;
import org.orderlyferry.cli.FerryCommand;
import org.orderlyferry.cli.Terminal;
import org.orderlyferry.progress.StopSignal;
import picocli.AutoComplete;
import picocli.CommandLine;
import picocli.codegen.docgen.manpage.ManPageGenerator;

/** Writes manual pages, in AsciiDoc, and what shells need to complete commands, out of the commands' own definitions. */
public final class ReferencePages {

    /**
     * Zsh takes the completion of bash, once it is told to. What stands here is read when somebody first asks for a completion,
     * so it gives that one too; and aliases, by which bash's words are known there, hold no longer by then.
     */
    private static final String ZSH =
            """
            #compdef ferry
            autoload -U +X bashcompinit && bashcompinit
            (( ${+functions[compopt]} )) || compopt() { return 0 }
            source "${${(%):-%x}:A:h}/ferry.bash"
            _bash_complete -o default -F _complete_ferry
            """;

    private ReferencePages() {}

    /**
     * Writes them.
     *
     * @param arguments the folder
     */
    public static void main(String[] arguments) throws IOException {
        Path folder = Path.of(arguments[0]);
        PrintWriter nowhere = new PrintWriter(Writer.nullWriter());
        CommandLine ferry = FerryCommand.line(new Console(nowhere, nowhere, Terminal.NONE, new StopSignal()));
        Path completions = Files.createDirectories(folder.resolve("completions"));
        Files.writeString(completions.resolve("ferry.bash"), AutoComplete.bash("ferry", ferry));
        Files.writeString(completions.resolve("_ferry"), ZSH);
        Path pages = Files.createDirectories(folder.resolve("pages"));
        int code = ManPageGenerator.generateManPage(pages.toFile(), null, new boolean[0], true, ferry.getCommandSpec());
        if (code != 0) {
            throw new IllegalStateException("the manual pages can't be written: " + code);
        }
    }
}
