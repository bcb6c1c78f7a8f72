package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.orderlyferry.file.FileTables;
import org.orderlyferry.integrity.Integrity;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.report.RecordedEnd;
import org.orderlyferry.report.WorkKind;
import org.orderlyferry.view.MadeView;
import org.orderlyferry.view.ProposedViews;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.RejectFile;
import org.orderlyferry.work.TransferResult;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "load",
        mixinStandardHelpOptions = true,
        description =
                "Load an export set, or a file of any format, into a database: make the tables, move the records, add"
                        + " keys, references and indexes.",
        footer = {"", "Example: ferry load set herbarium.sqlite"})
final class LoadCommand implements Callable<Integer> {

    private final Console console;

    @Parameters(
            index = "0",
            paramLabel = "SET",
            description = "An export set, a file, or files of one table: 'loan-*.csv'.")
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
            names = "--onto",
            paramLabel = "append|replace|merge",
            description = "What to do with a table that is there already: add the records; put the new table in its"
                    + " place; or, by the primary key, add new records and bring changed ones up to date."
                    + " Default: refuse.")
    private Onto onto;

    @Option(names = "--make-missing", description = "Make the database, or its schemas, where they aren't there.")
    private boolean makeMissing;

    @Option(
            names = "--try",
            description = "Only look whether each value and definition would be taken; change nothing.")
    private boolean tryOnly;

    @Option(
            names = "--definitions",
            paramLabel = "FILE",
            description = "A CSVW description of a single file. Default: the one beside it, NAME-metadata.json.")
    private Path definitions;

    @Option(
            names = "--accept-changes",
            description = "Take a set although its files were changed after it was made; ferry look shows how.")
    private boolean acceptChanges;

    @Option(
            names = "--trust-definitions",
            description = "Send checks, defaults and types as they are where they go beyond what Ferry reads itself:"
                    + " whoever wrote them can then run SQL in the database.")
    private boolean trustDefinitions;

    @Mixin
    private ReshapeOptions reshape;

    @Mixin
    private RejectOptions rejects;

    @Mixin
    private OutOfRangeOption outOfRange;

    @Mixin
    private LaneOptions lanes;

    @Mixin
    private FileOptions files;

    @Mixin
    private ViewOptions viewOptions;

    @Mixin
    private ProposalOptions proposal;

    @Mixin
    private RecordOption record;

    @Mixin
    private JsonOption json;

    private final TriedRejects tried = new TriedRejects();

    LoadCommand(Console console) {
        this.console = console;
    }

    /** What to do with a table that is there. */
    private enum Onto {
        APPEND,
        REPLACE,
        MERGE
    }

    @Override
    public Integer call() {
        record.mustNotBeOfATry(tryOnly);
        record.mustBeNew();
        Optional<RejectFile> rejected = rejects.open();
        int code = called(rejected);
        record.write(
                WorkKind.LOAD,
                onto == null ? "" : onto.name().toLowerCase(Locale.ROOT),
                rejected.map(RejectFile::file),
                Optional.empty());
        return code;
    }

    private int called(Optional<RejectFile> rejected) {
        try (RejectFile kept = rejected.orElse(null)) {
            Rejects hearing = kept != null ? kept : tryOnly ? tried : Rejects.STOP;
            OpenOptions options = PlaceOptions.of(files, definitions)
                    .rejects(hearing)
                    .outOfRange(outOfRange.value())
                    .proposing(proposal.proposing())
                    .build();
            try (Place opened = Opening.of(console, PlaceAddress.of(set), options)) {
                refuseToTrust(opened);
                return load(opened, reshape.reshaping().over(opened, hearing), hearing, rejected);
            }
        }
    }

    /** Whoever trusts definitions has named them. */
    private void refuseToTrust(Place opened) {
        if (trustDefinitions
                && opened instanceof FileTables files
                && files.besideDescription().isPresent()) {
            throw new UsageException("--trust-definitions isn't for "
                    + files.besideDescription().get()
                    + ", which merely lies beside the file; name it with --definitions to trust it");
        }
    }

    private int load(Place opened, Place source, Rejects hearing, Optional<RejectFile> rejected) {
        try (TargetPlace target = Places.openTarget(
                        PlaceAddress.of(place),
                        PlaceOptions.of()
                                .makeMissing(makeMissing)
                                .trustDefinitions(trustDefinitions)
                                .build());
                ProgressLine progress = new ProgressLine(console)) {
            Optional<ProposedViews> views = viewOptions.propose(source, tables, target, console.stop());
            TransferResult result;
            try (Place sound = sound(source, target, hearing, progress)) {
                result = Load.from(sound)
                        .tables(tables.toArray(String[]::new))
                        .mode(mode())
                        .rehearsal(tryOnly)
                        .acceptChanges(acceptChanges)
                        .rejects(hearing)
                        .lanes(lanes.lanes())
                        .sliceRows(lanes.sliceRows())
                        .sliceBytes(lanes.sliceBytes())
                        .pace(lanes.rowsPerSecond(), lanes.bytesPerSecond())
                        .listener(record.begun(progress))
                        .stopSignal(console.stop())
                        .into(target);
            }
            progress.end();
            List<Finding> more = new ArrayList<>(proposed(opened, result));
            more.addAll(tried.findings());
            TransferResult told = result.withFindings(more);
            result = told;
            List<MadeView> made = tryOnly
                    ? List.of()
                    : views.map(v -> v.make(target, isWhole(told))).orElse(List.of());
            record.done(
                    "load",
                    new RecordedEnd(source.address(), source.system()),
                    new RecordedEnd(target.address(), target.system()),
                    notes -> notes.moved(told));
            if (json.isOn()) {
                ObjectNode node = Report.json(result, progress.elapsed())
                        .put("target", target.address())
                        .put("tried", tryOnly)
                        .put("refused", isRefused(result, rejected));
                if (!made.isEmpty()) {
                    ViewsView.json(made, node);
                }
                console.json(node);
            } else {
                show(source, target, result, progress, rejected, made);
                views.filter(v -> tryOnly).ifPresent(v -> new ViewsView(console).show(v));
            }
            boolean lost = !tryOnly && !result.addsUp() || !made.stream().allMatch(MadeView::isMade);
            return isRefused(result, rejected) || lost || result.mayLackRecords()
                    ? ExitCode.DIFFERENCES
                    : rejects.code(result.rejected());
        }
    }

    /** Where the load goes on without records that can't be taken, also without those that break keys and references. */
    private Place sound(Place source, TargetPlace target, Rejects hearing, ProgressListener progress) {
        if (hearing == Rejects.STOP) {
            return Integrity.unlooked(source);
        }
        return Integrity.of(
                        source,
                        target,
                        () -> Places.open(
                                PlaceAddress.of(place), PlaceOptions.of().build()))
                .tables(tables)
                .modes(LoadModes.all(mode()))
                .lanes(lanes.lanes())
                .listener(progress)
                .stopSignal(console.stop())
                .sound(hearing);
    }

    /** Whether a load that was tried would come to nothing; without a file for them, it would stop at the first reject. */
    private boolean isRefused(TransferResult result, Optional<RejectFile> rejected) {
        return result.refused() || tryOnly && rejected.isEmpty() && result.rejected() > 0;
    }

    /** Whether the target's tables have the source's records, and no others. */
    private boolean isWhole(TransferResult result) {
        return result.rejected() == 0 && (mode() == LoadMode.CREATE || mode() == LoadMode.REPLACE);
    }

    /** Says of which tables the definitions are nobody's but proposed. */
    private static List<Finding> proposed(Place opened, TransferResult result) {
        if (!(opened instanceof FileTables tables)) {
            return List.of();
        }
        return tables.tables().stream()
                .filter(tables::isProposed)
                .map(
                        t -> Finding.of(
                                FindingCode.DEFINITION_PROPOSED,
                                t,
                                "has no definitions; its types and key were proposed from its values, as ferry look shows them"))
                .toList();
    }

    private LoadMode mode() {
        return onto == null ? LoadMode.CREATE : LoadMode.valueOf(onto.name());
    }

    private void show(
            Place source,
            TargetPlace target,
            TransferResult result,
            ProgressLine progress,
            Optional<RejectFile> rejected,
            List<MadeView> made) {
        console.line(console.style()
                .strong((tryOnly ? "Tried to load " : "Loaded ") + source.address() + " into " + target.address() + " ("
                        + target.system() + ")"));
        console.line("");
        new Report(console).transfer(result, progress.elapsed(), !tryOnly);
        console.line("");
        new ViewsView(console).show(made);
        if (!tryOnly) {
            Report.sum(console, result, rejected, with(source, result));
            console.line("To prove it: ferry reconcile SOURCE " + Argument.of(target.address()));
        } else if (isRefused(result, rejected)) {
            console.line(console.style().bad("Some values or definitions would be refused")
                    + ", and so would the load. Nothing was" + " changed.");
        } else {
            long refused = result.rejected();
            console.line(
                    refused == 0
                            ? console.style().good("Every value and definition would be taken")
                                    + ". Nothing was changed."
                            : console.style().warning(Amounts.count(refused, "record") + " would be rejected")
                                    + rejected.map(r -> ", with the reasons in " + r.file())
                                            .orElse("")
                                    + "; all else would be taken. Nothing was changed.");
            if (onto != null && mode() != LoadMode.REPLACE) {
                console.line(
                        "Of the checks of tables that are there, what only the target can tell, the load itself finds out.");
            }
        }
    }

    /** What came along with the records, of what there was. */
    private static String with(Place source, TransferResult result) {
        List<TableDefinition> loaded = source.tables().stream()
                .filter(t -> result.tables().stream().anyMatch(m -> m.table().equals(t)))
                .map(source::define)
                .toList();
        boolean keys = loaded.stream()
                .anyMatch(t -> t.primaryKey().isPresent() || !t.uniqueKeys().isEmpty());
        boolean references = loaded.stream().anyMatch(t -> !t.foreignKeys().isEmpty());
        String with = keys && references
                ? ", with their keys and references"
                : keys ? ", with their keys" : references ? ", with their references" : "";
        return with.isEmpty() || result.leftBehind().isEmpty() ? with : with + " but for what is left behind";
    }
}
