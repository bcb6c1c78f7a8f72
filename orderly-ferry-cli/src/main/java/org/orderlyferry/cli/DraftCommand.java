package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import org.orderlyferry.crossing.Draft;
import org.orderlyferry.crossing.Drafted;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "draft",
        mixinStandardHelpOptions = true,
        description =
                "Look at both ends and write a crossing's file: every choice of a migration, with what speaks for it. A"
                        + " file that is there already keeps all that it says, and gets what is new at the source.",
        footer = {"", "Example: ferry draft herbarium.mv.db herbarium.sqlite"})
final class DraftCommand implements Callable<Integer> {

    private final Console console;

    @Parameters(index = "0", paramLabel = "FROM", description = "Where the records are.")
    private String from;

    @Parameters(index = "1", paramLabel = "TO", description = "The database that they are to come to.")
    private String to;

    @Parameters(
            index = "2..*",
            arity = "0..*",
            paramLabel = "TABLE",
            description = "Only these tables; * stands for any characters. Default: all.")
    private List<String> tables = List.of();

    @Option(names = "--file", paramLabel = "FILE", description = "The file to write. Default: ${DEFAULT-VALUE}.")
    private Path file = Path.of("crossing.yaml");

    @Option(
            names = "--make-missing",
            description = "Let the crossing make the database, or its schemas, where they aren't there.")
    private boolean makeMissing;

    @Mixin
    private ViewOptions views;

    @Mixin
    private JsonOption json;

    DraftCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        Draft draft = Draft.between(from, to)
                .tables(tables.toArray(String[]::new))
                .makeMissing(makeMissing)
                .secrets(PlaceOptions.secrets());
        views.paths().ifPresent(draft::views);
        Drafted drafted = draft.write(file);
        int count = drafted.crossing().tables().size();
        if (json.isOn()) {
            ObjectNode node = JsonNodeFactory.instance.objectNode();
            node.put("file", file.toString()).put("isNew", drafted.isNew()).put("tables", count);
            drafted.news().forEach(node.putArray("news")::add);
            console.json(node);
            return ExitCode.DONE;
        }
        if (drafted.isNew()) {
            console.line(console.style().strong("Wrote " + file) + ": a crossing of " + Amounts.count(count, "table"));
        } else if (drafted.news().isEmpty()) {
            console.line(file + " tells of all that is at the source. Nothing was changed.");
        } else {
            console.line(console.style().strong(file + " keeps what it says") + "; new at the source since:");
            drafted.news().forEach(n -> console.wrapped("  ", n));
        }
        console.line("");
        console.line("Next: ferry check " + Argument.of(file));
        return ExitCode.DONE;
    }
}
