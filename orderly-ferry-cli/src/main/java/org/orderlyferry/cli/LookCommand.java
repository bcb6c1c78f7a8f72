package org.orderlyferry.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
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
                        + " references and sample records.",
        footer = {"", "Example: ferry look herbarium.mv.db specimen"})
final class LookCommand implements Callable<Integer> {

    private final Console console;

    @Parameters(index = "0", paramLabel = "PLACE", description = "A database, an export set, or a CSV file.")
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
            description =
                    "A CSVW description of a single CSV file. Default: the one beside it, NAME.csv-metadata.json.")
    private Path definitions;

    @Mixin
    private FileOptions files;

    @Mixin
    private JsonOption json;

    LookCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (Place opened = Places.open(PlaceAddress.of(place), PlaceOptions.of(files.dialect(), definitions))) {
            boolean single = opened.tables().size() == 1 && opened.system().startsWith("CSV");
            if (table == null && !single) {
                PlaceView view = PlaceView.of(opened);
                boolean whole = view.denied().isEmpty();
                if (json.isOn()) {
                    console.json(view.json());
                } else {
                    view.show(console);
                }
                return whole ? ExitCode.DONE : ExitCode.DIFFERENCES;
            } else {
                TableView view = TableView.of(
                        opened,
                        table == null ? opened.tables().get(0) : TableChoice.one(opened, table),
                        Math.max(0, samples));
                if (json.isOn()) {
                    console.json(view.json());
                } else {
                    view.show(console);
                }
            }
            return ExitCode.DONE;
        }
    }
}
