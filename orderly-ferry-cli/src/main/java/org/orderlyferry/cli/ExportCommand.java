package org.orderlyferry.cli;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.io.Compression;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.report.RecordedEnd;
import org.orderlyferry.report.WorkKind;
import org.orderlyferry.reshape.Reshaping;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.RejectFile;
import org.orderlyferry.work.TransferResult;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "export",
        mixinStandardHelpOptions = true,
        description =
                "Export tables to an export set: a folder of files with their definitions, tallies and checksums.",
        footer = {"", "Example: ferry export herbarium.mv.db set specimen 'loan*'"})
final class ExportCommand implements Callable<Integer> {

    private final Console console;

    @Parameters(index = "0", paramLabel = "PLACE", description = "Where the records are.")
    private String place;

    @Parameters(index = "1", paramLabel = "SET", description = "The folder that is to become the export set.")
    private Path set;

    @Parameters(
            index = "2..*",
            arity = "0..*",
            paramLabel = "TABLE",
            description = "Only these tables; * stands for any characters. Default: all.")
    private List<String> tables = List.of();

    @Option(
            names = "--query",
            paramLabel = "NAME=SQL",
            description = "Export what a query gives, as a table of this name. May be given several times.")
    private Map<String, String> queries = new LinkedHashMap<>();

    @Option(
            names = "--type",
            paramLabel = "COLUMN=TYPE",
            description = "A column of another type, such as 'DECIMAL(12,2)' or DATE; TABLE.COLUMN for one table's."
                    + " A value that it can't hold is refused.")
    private Map<String, String> types = new LinkedHashMap<>();

    @Option(names = "--overwrite", description = "Replace an export set that is there, once the new one is complete.")
    private boolean overwrite;

    @Mixin
    private RejectOptions rejects;

    @Mixin
    private OutOfRangeOption outOfRange;

    @Option(
            names = "--cut-by",
            paramLabel = "TABLE=COLUMN",
            description = "Cut a table by this column instead of its primary key. May be given several times.")
    private Map<String, String> cutBy = new LinkedHashMap<>();

    @Option(
            names = "--compress",
            paramLabel = "gzip|zstd",
            description = "Compress the data files while they are written. Default: not at all.")
    private Compression compression = Compression.NONE;

    @Mixin
    private LaneOptions lanes;

    @Mixin
    private FileOptions files;

    @Mixin
    private RecordOption record;

    @Mixin
    private JsonOption json;

    ExportCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        SetName.mustBeOfSet(set);
        record.mustBeNew();
        if (!types.isEmpty() && !queries.isEmpty()) {
            throw new UsageException("--type is for tables; a query says its types itself, by CAST");
        }
        FileFormat format = FileFormats.named(files.format().orElse("csv"));
        FileSettings settings = files.settings();
        format.check(settings);
        Optional<RejectFile> rejected = rejects.open();
        try (RejectFile kept = rejected.orElse(null)) {
            return export(format, settings, kept == null ? Rejects.STOP : kept, rejected);
        }
    }

    private int export(FileFormat format, FileSettings settings, Rejects hearing, Optional<RejectFile> rejected) {
        try (Place source = Opening.of(
                        console,
                        PlaceAddress.of(place),
                        PlaceOptions.of()
                                .rejects(hearing)
                                .outOfRange(outOfRange.value())
                                .build());
                ProgressLine progress = new ProgressLine(console)) {
            Reshaping typed = new Reshaping();
            types.forEach(typed::type);
            Export export = Export.from(typed.over(source, hearing))
                    .rejects(hearing)
                    .tables(tables.toArray(String[]::new))
                    .format(format, settings)
                    .compression(compression)
                    .overwrite(overwrite)
                    .lanes(lanes.lanes())
                    .sliceRows(lanes.sliceRows())
                    .sliceBytes(lanes.sliceBytes())
                    .pace(lanes.rowsPerSecond(), lanes.bytesPerSecond())
                    .listener(record.begun(json.isOn() ? progress : progress.showingPlan()))
                    .stopSignal(console.stop());
            queries.forEach(export::query);
            cutBy.forEach(export::cutBy);
            TransferResult result = export.to(set);
            progress.end();
            recorded(source, result, rejected);
            if (json.isOn()) {
                console.json(Report.json(result, progress.elapsed()).put("set", set.toString()));
            } else {
                console.line(console.style()
                        .strong("Exported " + source.address() + " (" + source.system() + ") to " + set));
                console.line("");
                new Report(console).transfer(result, progress.elapsed());
                console.line("");
                console.line(made(result) + ", with definitions, tallies and a SHA-256 checksum for each file.");
                if (result.rejected() > 0) {
                    Report.sum(console, result, rejected, "");
                }
            }
            return result.failed().isEmpty() && result.addsUp() && !result.mayLackRecords()
                    ? rejects.code(result.rejected())
                    : ExitCode.DIFFERENCES;
        }
    }

    private String made(TransferResult result) {
        if (!result.failed().isEmpty()) {
            return console.style()
                    .bad("The set lacks " + Amounts.count(result.failed().size(), "table")
                            + " that couldn't be read; the others are whole");
        }
        return result.rejected() > 0
                ? console.style().bad("The set lacks what was rejected, and has all else")
                : console.style().good("The set is complete");
    }

    private void recorded(Place source, TransferResult result, Optional<RejectFile> rejected) {
        try (Place made = Places.open(set)) {
            record.done(
                    "export",
                    new RecordedEnd(source.address(), source.system()),
                    new RecordedEnd(made.address(), made.system()),
                    notes -> notes.moved(result).kept(made));
        }
        record.write(WorkKind.EXPORT, "", rejected.map(RejectFile::file), Optional.of(set));
    }
}
