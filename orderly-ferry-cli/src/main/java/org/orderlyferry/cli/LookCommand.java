package org.orderlyferry.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import org.orderlyferry.file.FileTables;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.TableChoice;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "look",
        mixinStandardHelpOptions = true,
        description =
                "Show what a place holds: its tables with row counts and keys, or one table with its fields, keys,"
                        + " references and sample records. Of a file, all values are looked at.",
        footer = {"", "Example: ferry look herbarium.mv.db specimen"})
final class LookCommand implements Callable<Integer> {

    private final Console console;

    @Parameters(index = "0", paramLabel = "PLACE", description = "A database, an export set, or a file.")
    private String place;

    @Parameters(index = "1", arity = "0..1", paramLabel = "TABLE", description = "One table, to be shown whole.")
    private String table;

    @Option(
            names = "--samples",
            paramLabel = "N",
            description = "How many records of a table to show. Default: ${DEFAULT-VALUE}.")
    private int samples = 3;

    @Option(
            names = "--definitions",
            paramLabel = "FILE",
            description = "A CSVW description of a single file. Default: the one beside it, NAME-metadata.json.")
    private Path definitions;

    @Option(
            names = "--write-definitions",
            paramLabel = "FILE",
            description = "Write a file's definitions, given or proposed, as a CSVW description to be changed and given"
                    + " back.")
    private Path written;

    @Mixin
    private FileOptions files;

    @Mixin
    private ProposalOptions proposal;

    @Mixin
    private JsonOption json;

    LookCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (Place opened = Opening.of(
                console,
                PlaceAddress.of(place),
                PlaceOptions.of(files, definitions)
                        .proposing(proposal.proposing())
                        .build())) {
            if (opened instanceof FileTables tables) {
                return file(opened, tables);
            }
            if (table == null) {
                PlaceView view = PlaceView.of(opened);
                boolean whole = view.denied().isEmpty() && view.changes().isEmpty();
                if (json.isOn()) {
                    console.json(view.json());
                } else {
                    view.show(console);
                }
                return whole ? ExitCode.DONE : ExitCode.DIFFERENCES;
            }
            TableView view = TableView.of(opened, TableChoice.one(opened, table), Math.max(0, samples));
            if (json.isOn()) {
                console.json(view.json());
            } else {
                view.show(console);
            }
            return ExitCode.DONE;
        }
    }

    private int file(Place opened, FileTables tables) {
        if (table == null && tables.tables().size() != 1) {
            PlaceView view = PlaceView.of(opened);
            if (json.isOn()) {
                console.json(view.json());
            } else {
                view.show(console);
            }
            return ExitCode.DONE;
        }
        TableName name = table == null ? tables.tables().get(0) : TableChoice.one(opened, table);
        FileView view = FileView.of(opened, tables, name);
        if (json.isOn()) {
            console.json(view.json());
        } else {
            view.show(console);
        }
        if (written != null) {
            tables.writeDefinitions(name, written);
            console.line("");
            console.line("The definitions are in " + written);
        }
        return ExitCode.DONE;
    }
}
