package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.orderlyferry.exportset.ExportSet;
import org.orderlyferry.file.FileTables;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.DifferencesPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.reconcile.RowDifference;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.report.FirstDifferences;
import org.orderlyferry.report.RecordedComparison;
import org.orderlyferry.report.RecordedEnd;
import org.orderlyferry.report.WorkKind;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.RejectFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "reconcile",
        mixinStandardHelpOptions = true,
        description = "Compare two places by what they hold now.",
        footer = {"", "Example: ferry reconcile herbarium.mv.db herbarium.sqlite --depth digests"})
final class ReconcileCommand implements Callable<Integer> {

    private final Console console;

    @Parameters(index = "0", paramLabel = "SOURCE", description = "Where the records come from.")
    private String source;

    @Parameters(index = "1", paramLabel = "TARGET", description = "Where they should be.")
    private String target;

    @Parameters(
            index = "2..*",
            arity = "0..*",
            paramLabel = "TABLE",
            description = "Only these tables; * stands for any characters. Default: all.")
    private List<String> tables = List.of();

    @Mixin
    private ComparisonOptions comparison;

    @Mixin
    private OutOfRangeOption outOfRange;

    @Mixin
    private RejectOptions rejects;

    @Option(
            names = "--differences",
            paramLabel = "FILE",
            description =
                    "Write all records that differ, with both sides' values, into a new file, whose ending tells its"
                            + " format, or into a folder, which becomes an export set.")
    private Path differences;

    @Option(
            names = "--all",
            description = "List every table. Default: where there are more than " + ReconcileView.MOST_LISTED
                    + ", those that are equal are only counted.")
    private boolean all;

    @Mixin
    private RecordOption record;

    @Mixin
    private JsonOption json;

    ReconcileCommand(Console console) {
        this.console = console;
    }

    private OpenOptions options(Rejects hearing) {
        return PlaceOptions.of().rejects(hearing).outOfRange(outOfRange.value()).build();
    }

    @Override
    public Integer call() {
        record.mustBeNew();
        Depth depth = comparison.depth(differences != null);
        if (differences != null && Files.exists(differences)) {
            throw new UsageException(differences + " is there already; differences go into a new file");
        }
        if (differences != null && !ConvertCommand.isFile(differences, null)) {
            SetName.mustBeOfSet(differences);
        }
        Optional<RejectFile> rejected = rejects.open();
        try (RejectFile kept = rejected.orElse(null)) {
            return compare(depth, Optional.ofNullable(kept).map(RejectsOnce::new));
        }
    }

    private int compare(Depth depth, Optional<RejectsOnce> unread) {
        List<RowDifference> first = new ArrayList<>();
        FirstDifferences recorded = new FirstDifferences();
        try (Place from = Opening.of(
                        console,
                        PlaceAddress.of(source),
                        options(unread.<Rejects>map(r -> r).orElse(Rejects.STOP)));
                Place to = Opening.of(console, PlaceAddress.of(target), options(Rejects.STOP));
                DifferencesPlace kept = differences == null ? null : new DifferencesPlace();
                ProgressLine progress = new ProgressLine(console)) {
            Reconcile reconcile = comparison
                    .tell(Reconcile.between(from, to))
                    .depth(depth)
                    .tables(tables.toArray(String[]::new))
                    .listener(record.begun(progress))
                    .stopSignal(console.stop())
                    .differences(
                            difference -> {
                                if (first.size() < DifferenceView.MOST) {
                                    first.add(difference);
                                }
                                recorded.found(difference);
                                if (kept != null) {
                                    kept.found(difference);
                                }
                            },
                            kept == null ? RecordedComparison.MOST : Long.MAX_VALUE);
            ReconcileResult result = reconcile.compare();
            progress.end();
            record.done(
                    "proof",
                    new RecordedEnd(from.address(), from.system()),
                    new RecordedEnd(to.address(), to.system()),
                    notes -> notes.found(result.findings())
                            .compared(RecordedComparison.of(
                                    "source and target",
                                    result.isEqual(),
                                    result,
                                    recorded.found(),
                                    kept == null ? "" : differences.toString())));
            if (json.isOn()) {
                ObjectNode node = ReconcileView.json(result, first);
                unread.ifPresent(r -> node.put("unread", r.count()));
                console.json(node);
            } else {
                new ReconcileView(console, all).show(from, to, result, progress, first);
                new Report(console).notes("Not compared", unfollowed(from));
                unread.filter(r -> r.count() > 0).ifPresent(r -> console.line(unread(r.count())));
            }
            if (kept != null) {
                // last: what was found is told, whatever becomes of the file
                write(kept, to, result);
            }
            record.write(WorkKind.RECONCILE, "", Optional.empty(), Optional.empty());
            return result.isWithoutDifference()
                    ? rejects.code(unread.map(RejectsOnce::count).orElse(0L))
                    : ExitCode.DIFFERENCES;
        }
    }

    private String unread(long count) {
        return console.style()
                        .bad(Amounts.count(count, "record") + " of the source can't be read, and "
                                + (count == 1 ? "wasn't" : "weren't") + " compared")
                + "; " + (count == 1 ? "it stands" : "each stands") + " with its reason in " + rejects.file();
    }

    /** What a script does to records besides bringing them; to look for it costs nothing in a place of files. */
    private static List<LeftBehind> unfollowed(Place place) {
        return place instanceof FileTables || place instanceof ExportSet
                ? place.leftBehind().stream().filter(LeftBehind::isOfRecords).toList()
                : List.of();
    }

    private void write(DifferencesPlace kept, Place to, ReconcileResult result) {
        kept.complete();
        if (kept.tables().isEmpty()) {
            tell("No record differs, so " + differences + " wasn't made.");
            return;
        }
        if (ConvertCommand.isFile(differences, null)) {
            try (TargetPlace target = Places.openTarget(differences)) {
                Load.from(kept).stopSignal(console.stop()).into(target);
            }
        } else {
            Export.from(kept).stopSignal(console.stop()).to(differences);
        }
        tell("All records that differ are in " + differences + ".");
        // a file of one table is called after the file
        boolean single = kept.tables().size() == 1 && ConvertCommand.isFile(differences, null);
        boolean mends =
                result.tables().stream().flatMap(t -> t.rows().stream()).anyMatch(r -> r.missing() + r.different() > 0);
        if (mends) {
            tell("To bring the source's to the target:");
            tell("  ferry load " + Argument.of(differences) + " " + Argument.of(to.address())
                    + (single
                            ? " --as "
                                    + Argument.of(
                                            comparison.as() == null
                                                    ? kept.tables().get(0).toString()
                                                    : comparison.as())
                            : "")
                    + " --onto merge --where \"side = 'source'\" --skip difference,side");
        }
    }

    private void tell(String line) {
        if (!json.isOn()) {
            console.line(line);
        }
    }
}
