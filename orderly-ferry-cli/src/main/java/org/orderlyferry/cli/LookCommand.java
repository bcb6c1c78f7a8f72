package org.orderlyferry.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import org.orderlyferry.file.FileTables;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.problem.UsageException;
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

    @Parameters(
            index = "1..*",
            arity = "0..*",
            paramLabel = "TABLE",
            description =
                    "One table, to be shown whole; or a pattern of names, as 'loan*', to list only those. Files that"
                            + " follow the first are looked at like it, in a line each.")
    private List<String> more = List.of();

    @Option(
            names = "--sort",
            paramLabel = "name|rows|size|columns",
            description = "In which order tables are listed; the largest come first. Default: name.")
    private TableOrder sort = TableOrder.NAME;

    @Option(
            names = "--all",
            description =
                    "List every table. Default: where there are more than 30, those that are empty are only counted.")
    private boolean all;

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
        if (more.size() > 1) {
            return several();
        }
        try (Place opened = open(place)) {
            String table = more.isEmpty() ? null : more.get(0);
            if (table != null && isAnotherFile(opened, table)) {
                return several();
            }
            if (opened instanceof FileTables tables) {
                return file(opened, tables, table);
            }
            if (written != null) {
                throw new UsageException("--write-definitions is for a file, and " + opened.address()
                        + " has definitions of its own; an export set of it carries them");
            }
            if (table == null || table.contains("*")) {
                return list(opened, table);
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

    private Place open(String address) {
        return Opening.of(
                console,
                PlaceAddress.of(address),
                PlaceOptions.of(files, definitions)
                        .proposing(proposal.proposing())
                        .build());
    }

    /** A shell that completes names gives files, one after the other; a table of that name comes first. */
    private static boolean isAnotherFile(Place opened, String name) {
        boolean table = opened.tables().stream()
                .anyMatch(t -> t.name().equals(name) || t.toString().equals(name));
        try {
            return !table
                    && !PlaceAddress.of(name).isJdbc()
                    && Files.exists(PlaceAddress.of(name).path());
        } catch (UsageException e) {
            // no name that a file could have
            return false;
        }
    }

    private int several() {
        if (definitions != null || written != null) {
            throw new UsageException("--definitions and --write-definitions are for one file");
        }
        PlacesView view =
                PlacesView.of(Stream.concat(Stream.of(place), more.stream()).toList(), this::open);
        if (json.isOn()) {
            console.json(view.json());
        } else {
            view.show(console);
        }
        return view.unread().isEmpty() ? ExitCode.DONE : ExitCode.DIFFERENCES;
    }

    private int list(Place opened, String pattern) {
        PlaceView view = PlaceView.of(opened, pattern == null ? List.of() : List.of(pattern), sort);
        boolean whole = view.denied().isEmpty() && view.changes().isEmpty();
        if (json.isOn()) {
            console.json(view.json());
        } else {
            view.show(console, all);
        }
        return whole ? ExitCode.DONE : ExitCode.DIFFERENCES;
    }

    private int file(Place opened, FileTables tables, String table) {
        if (table == null ? tables.tables().size() != 1 : table.contains("*")) {
            if (written != null) {
                throw new UsageException("--write-definitions takes those of one table, and " + opened.address()
                        + " has " + Amounts.count(tables.tables().size(), "table") + ": name one behind it");
            }
            return list(opened, table);
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
