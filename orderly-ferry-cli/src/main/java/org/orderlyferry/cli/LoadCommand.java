package org.orderlyferry.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.transfer.Load;
import org.orderlyferry.transfer.TransferResult;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "load",
        mixinStandardHelpOptions = true,
        description =
                "Load an export set, or a CSV file with its definitions, into a database: make the tables, move the"
                        + " records, add keys, references and indexes.",
        footer = {"", "Example: ferry load set herbarium.sqlite"})
final class LoadCommand implements Callable<Integer> {

    private final Console console;

    @Parameters(index = "0", paramLabel = "SET", description = "An export set, or a CSV file.")
    private String set;

    @Parameters(index = "1", paramLabel = "PLACE", description = "The database; a file is made where there is none.")
    private String place;

    @Parameters(
            index = "2..*",
            arity = "0..*",
            paramLabel = "TABLE",
            description = "Only these tables; * stands for any characters. Default: all.")
    private List<String> tables = List.of();

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

    LoadCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (Place source = Places.open(PlaceAddress.of(set), PlaceOptions.of(files.dialect(), definitions))) {
            if (source.system().endsWith("without definitions")) {
                throw new UsageException(set + " has no definitions: what its columns are is not known. Put a CSVW"
                        + " description beside it (" + set + "-metadata.json), or give one with --definitions");
            }
            return load(source);
        }
    }

    private int load(Place source) {
        try (TargetPlace target = Places.openTarget(PlaceAddress.of(place), PlaceOptions.of());
                ProgressLine progress = new ProgressLine(console)) {
            TransferResult result = Load.from(source)
                    .tables(tables.toArray(String[]::new))
                    .listener(progress)
                    .stopSignal(console.stop())
                    .into(target);
            progress.end();
            if (json.isOn()) {
                console.json(Report.json(result, progress.elapsed()).put("target", target.address()));
            } else {
                console.line(console.style()
                        .strong("Loaded " + source.address() + " into " + target.address() + " (" + target.system()
                                + ")"));
                console.line("");
                new Report(console).transfer(result, progress.elapsed());
                console.line("");
                console.line(console.style().good("All records are in")
                        + ", with their keys and references. To prove it: ferry reconcile SOURCE "
                        + target.address());
            }
            return ExitCode.DONE;
        }
    }
}
