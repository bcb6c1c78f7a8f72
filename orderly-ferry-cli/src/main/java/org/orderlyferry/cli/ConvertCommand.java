package org.orderlyferry.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.io.Compression;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.RejectFile;
import org.orderlyferry.work.TransferResult;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "convert",
        mixinStandardHelpOptions = true,
        description = "Convert a file, an export set, or tables of a database to a file or set of another format, with"
                + " their definitions.",
        footer = {"", "Example: ferry convert labels.csv labels.jsonl"})
final class ConvertCommand implements Callable<Integer> {

    private final Console console;

    @Parameters(
            index = "0",
            paramLabel = "FROM",
            description = "A file, files of one table ('loan-*.csv'), an export set, or a database.")
    private String from;

    @Parameters(
            index = "1",
            paramLabel = "TO",
            description = "A file, whose ending tells its format; or a folder, which becomes an export set.")
    private Path to;

    @Parameters(
            index = "2..*",
            arity = "0..*",
            paramLabel = "TABLE",
            description = "Only these tables; * stands for any characters. Default: all.")
    private List<String> tables = List.of();

    @Option(names = "--from-format", paramLabel = "NAME", description = "What FROM is, where it doesn't tell itself.")
    private String fromFormat;

    @Option(names = "--to-format", paramLabel = "NAME", description = "What TO is to be, or the files of the set TO.")
    private String toFormat;

    @Option(
            names = "--from-setting",
            paramLabel = "NAME=VALUE",
            description = "How FROM is written; docs/formats.md has the names. May be given several times.")
    private Map<String, String> fromSettings = new LinkedHashMap<>();

    @Option(
            names = "--to-setting",
            paramLabel = "NAME=VALUE",
            description = "How TO is to be written. May be given several times.")
    private Map<String, String> toSettings = new LinkedHashMap<>();

    @Option(
            names = "--definitions",
            paramLabel = "FILE",
            description = "A CSVW description of FROM. Default: the one beside it, NAME-metadata.json.")
    private Path definitions;

    @Option(names = "--overwrite", description = "Replace what is at TO, once the new one is complete.")
    private boolean overwrite;

    @Mixin
    private ReshapeOptions reshape;

    @Mixin
    private RejectOptions rejects;

    @Mixin
    private OutOfRangeOption outOfRange;

    @Mixin
    private LaneOptions lanes;

    @Mixin
    private ProposalOptions proposal;

    @Mixin
    private JsonOption json;

    ConvertCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        Optional<RejectFile> rejected = rejects.open();
        try (RejectFile kept = rejected.orElse(null)) {
            Rejects hearing = kept == null ? Rejects.STOP : kept;
            OpenOptions.Builder options = PlaceOptions.of()
                    .files(new FileSettings(fromSettings))
                    .rejects(hearing)
                    .outOfRange(outOfRange.value())
                    .proposing(proposal.proposing());
            if (fromFormat != null) {
                options.format(fromFormat);
            }
            if (definitions != null) {
                options.definitions(definitions);
            }
            try (Place opened = Opening.of(console, PlaceAddress.of(from), options.build());
                    ProgressLine progress = new ProgressLine(console)) {
                Place source = reshape.reshaping().over(opened, hearing);
                TransferResult result =
                        isFile(to, toFormat) ? toFile(source, hearing, progress) : toSet(source, hearing, progress);
                progress.end();
                show(source, result, progress, rejected);
                boolean whole = result.failed().isEmpty() && !result.mayLackRecords();
                return whole ? rejects.code(result.rejected()) : ExitCode.DIFFERENCES;
            }
        }
    }

    /** What ends as files of a known format do is one; a folder that is there, or any other name, is a set. */
    static boolean isFile(Path to, String toFormat) {
        if (Files.isDirectory(to)) {
            return false;
        }
        String name = to.getFileName().toString();
        String bare = name.substring(
                0, name.length() - Compression.ofName(name).ending().length());
        int point = bare.lastIndexOf('.');
        return point >= 0
                && (toFormat != null
                        || FileFormats.ofEnding(bare.substring(point + 1).toLowerCase(Locale.ROOT))
                                .isPresent());
    }

    private TransferResult toFile(Place source, Rejects hearing, ProgressLine progress) {
        OpenOptions.Builder options = PlaceOptions.of().files(new FileSettings(toSettings));
        if (toFormat != null) {
            options.format(toFormat);
        }
        try (TargetPlace target = Places.openTarget(PlaceAddress.of(to), options.build())) {
            return Load.from(source)
                    .tables(tables.toArray(String[]::new))
                    .mode(overwrite ? LoadMode.REPLACE : LoadMode.CREATE)
                    .rejects(hearing)
                    .pace(lanes.rowsPerSecond(), lanes.bytesPerSecond())
                    .listener(progress)
                    .stopSignal(console.stop())
                    .into(target);
        }
    }

    private TransferResult toSet(Place source, Rejects hearing, ProgressLine progress) {
        SetName.mustBeOfSet(to);
        return Export.from(source)
                .tables(tables.toArray(String[]::new))
                .format(FileFormats.named(toFormat == null ? "csv" : toFormat), new FileSettings(toSettings))
                .lanes(lanes.lanes())
                .sliceRows(lanes.sliceRows())
                .sliceBytes(lanes.sliceBytes())
                .rejects(hearing)
                .pace(lanes.rowsPerSecond(), lanes.bytesPerSecond())
                .overwrite(overwrite)
                .listener(progress)
                .stopSignal(console.stop())
                .to(to);
    }

    private void show(Place source, TransferResult result, ProgressLine progress, Optional<RejectFile> rejected) {
        if (json.isOn()) {
            console.json(Report.json(result, progress.elapsed()).put("target", to.toString()));
            return;
        }
        console.line(console.style().strong("Converted " + source.address() + " (" + source.system() + ") to " + to));
        console.line("");
        new Report(console).transfer(result, progress.elapsed());
        console.line("");
        Report.sum(console, result, rejected, "");
        List<String> beside = beside();
        if (!beside.isEmpty()) {
            console.line("Its definitions stand beside it: " + String.join(", ", beside));
        }
    }

    /** Files that were made together with the one that was asked for. */
    private List<String> beside() {
        String name = to.getFileName().toString();
        String bare = name.substring(
                0, name.length() - Compression.ofName(name).ending().length());
        String base = bare.contains(".") ? bare.substring(0, bare.lastIndexOf('.')) : bare;
        return Stream.of(name + "-metadata.json", base + ".schema.json", base + ".xsd")
                .filter(other -> isFile(to, toFormat) && Files.exists(to.resolveSibling(other)))
                .toList();
    }
}
