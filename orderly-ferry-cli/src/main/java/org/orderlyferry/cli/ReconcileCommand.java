package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.AppliedRule;
import org.orderlyferry.reconcile.ComparedTable;
import org.orderlyferry.reconcile.ComparisonRule;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.DifferencesPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.reconcile.RowDifference;
import org.orderlyferry.reconcile.SampleCount;
import org.orderlyferry.reconcile.Verdict;
import org.orderlyferry.report.FirstDifferences;
import org.orderlyferry.report.RecordedComparison;
import org.orderlyferry.report.RecordedEnd;
import org.orderlyferry.report.WorkKind;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
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

    private static final int MOST_LISTED = 30;

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

    @Option(
            names = "--depth",
            paramLabel = "counts|digests|rows",
            description = "Compare the numbers of records; or every value; or find out which records differ, and where."
                    + " Default: digests, or rows where an option needs it.")
    private Depth depth;

    @Option(
            names = "--key",
            paramLabel = "[TABLE:]COLUMN,COLUMN…",
            description =
                    "By which columns records are told apart, by their names at the source. Default: the primary key,"
                            + " a unique key, or the whole record. May be given several times.")
    private List<String> keys = List.of();

    @Option(
            names = "--as",
            paramLabel = "NAME",
            description =
                    "What the one table of the source is called at the target. Default: the same, or whatever it is"
                            + " called where each side has just one.")
    private String as;

    @Option(
            names = "--rule",
            paramLabel = "RULE",
            description = "What doesn't count when values are compared: without=COLUMN, places=N (of numbers),"
                    + " time-digits=N (of a second), zone=ZONE (of times that have none), trailing-blanks, any-case,"
                    + " null-as-empty. May be given several times.")
    private List<String> rules = List.of();

    @Option(
            names = "--totals",
            description =
                    "Show control totals of each column on both sides, computed from the values as they are read: how"
                            + " many there are, nulls, the smallest and the largest, sums of numbers, lengths of texts.")
    private boolean totals;

    @Option(
            names = "--server-totals",
            description =
                    "Have both servers compute control totals by their own SQL too, and hold them against those of"
                            + " the values as they were read.")
    private boolean serverTotals;

    @Option(
            names = "--structure",
            description =
                    "Compare definitions too: types, nulls, defaults, counters, keys, references, checks, indexes."
                            + " What the target's system can't have otherwise is told apart; views, triggers and what else no load"
                            + " carries is ticked off.")
    private boolean structure;

    @Option(
            names = "--keep",
            paramLabel = "FOLDER",
            description =
                    "Keep in this folder what was tallied, slice by slice, until all is: a comparison by digests that is"
                            + " stopped or killed goes on there when it is called again.")
    private Path keep;

    @Option(
            names = "--sample",
            paramLabel = "PERCENT",
            description =
                    "Compare only so many of the records, such as 1%%, the same ones on both sides, picked by a hash of"
                            + " their keys; and the numbers of all. Such a comparison never says that two places are equal.")
    private String sample;

    @Option(
            names = "--differences",
            paramLabel = "FILE",
            description =
                    "Write all records that differ, with both sides' values, into a new file, whose ending tells its"
                            + " format, or into a folder, which becomes an export set.")
    private Path differences;

    @Option(
            names = "--lanes",
            paramLabel = "N",
            description = "How many slices are read at once on each side, each over a connection of its own. Default:"
                    + " ${DEFAULT-VALUE}.")
    private int lanes = 1;

    @Option(
            names = "--all",
            description = "List every table. Default: where there are more than " + MOST_LISTED
                    + ", those that are equal are only counted.")
    private boolean all;

    @Mixin
    private RecordOption record;

    @Mixin
    private JsonOption json;

    ReconcileCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        record.mustBeNew();
        if (depth == null) {
            boolean byRows = !keys.isEmpty() || !rules.isEmpty() || differences != null;
            depth = byRows ? Depth.ROWS : Depth.DIGESTS;
        } else if (depth != Depth.ROWS && (!keys.isEmpty() || differences != null)) {
            throw new UsageException("--key and --differences are about single records, and need --depth rows");
        }
        if (differences != null && Files.exists(differences)) {
            throw new UsageException(differences + " is there already; differences go into a new file");
        }
        if (differences != null && !ConvertCommand.isFile(differences, null)) {
            SetName.mustBeOfSet(differences);
        }
        List<RowDifference> first = new ArrayList<>();
        FirstDifferences recorded = new FirstDifferences();
        try (Place from = Opening.of(
                        console, PlaceAddress.of(source), PlaceOptions.of().build());
                Place to = Opening.of(
                        console, PlaceAddress.of(target), PlaceOptions.of().build());
                DifferencesPlace kept = differences == null ? null : new DifferencesPlace();
                ProgressLine progress = new ProgressLine(console)) {
            Reconcile reconcile = Reconcile.between(from, to)
                    .depth(depth)
                    .totals(totals)
                    .serverTotals(serverTotals)
                    .definitions(structure)
                    .rules(rules.stream().map(ComparisonRule::parse).toList())
                    .lanes(lanes)
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
            keys.forEach(key -> tell(reconcile, key));
            if (keep != null) {
                reconcile.keep(keep);
            }
            if (sample != null) {
                reconcile.sample(percent());
            }
            if (as != null) {
                reconcile.as(TableName.of(as));
            }
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
                console.json(json(result, first));
            } else {
                show(from, to, result, progress, first);
            }
            if (kept != null) {
                // last: what was found is told, whatever becomes of the file
                write(kept, to, result);
            }
            record.write(WorkKind.RECONCILE, "", Optional.empty(), Optional.empty());
            return result.isWithoutDifference() ? ExitCode.DONE : ExitCode.DIFFERENCES;
        }
    }

    private BigDecimal percent() {
        try {
            return new BigDecimal(sample.replaceFirst("\\s*%$", ""));
        } catch (NumberFormatException e) {
            throw new UsageException("--sample is a share such as 1% or 0.5%, not " + sample, e);
        }
    }

    private static void tell(Reconcile reconcile, String key) {
        int colon = key.indexOf(':');
        List<String> columns = List.of(key.substring(colon + 1).split(","));
        reconcile.key(colon < 0 ? "*" : key.substring(0, colon), columns);
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
                                            as == null ? kept.tables().get(0).toString() : as)
                            : "")
                    + " --onto merge --where \"side = 'source'\" --skip difference,side");
        }
    }

    private void tell(String line) {
        if (!json.isOn()) {
            console.line(line);
        }
    }

    private void show(Place from, Place to, ReconcileResult result, ProgressLine progress, List<RowDifference> first) {
        Style style = console.style();
        String how =
                switch (depth) {
                    case COUNTS -> "counts";
                    case DIGESTS ->
                        result.sample().isPresent() ? "digests of the values of a sample" : "digests of every value";
                    case ROWS ->
                        result.sample().isPresent()
                                ? "the values of a sample, record by record"
                                : "every value, record by record";
                };
        console.line(style.strong("Reconciled by " + how));
        console.line("  source  " + from.address() + " (" + from.system() + ")");
        console.line("  target  " + to.address() + " (" + to.system() + ")");
        console.line("");
        // those that need a person stand out where there are many
        boolean fold = !all && result.tables().size() > MOST_LISTED;
        List<ComparedTable> listed = result.tables().stream()
                .filter(t -> !fold || t.verdict() != Verdict.EQUAL || !t.rules().isEmpty())
                .toList();
        long folded = result.tables().size() - listed.size();
        TextTable table = new TextTable()
                .left("table")
                .right("source rows")
                .right("target rows")
                .left("verdict")
                .left(result.isEqual() && !ruled(result) ? "" : "what differs");
        for (ComparedTable compared : listed) {
            table.row(
                    compared.table().toString(),
                    rows(compared.sourceRows()),
                    rows(compared.targetRows()),
                    compared.verdict() == Verdict.EQUAL && result.sample().isPresent()
                            ? style.warning("alike")
                            : verdict(style, compared.verdict()),
                    what(compared, depth));
        }
        if (!listed.isEmpty()) {
            table.lines(style).forEach(console::line);
        }
        if (folded > 0) {
            String equalOnes = listed.isEmpty()
                    ? "all " + Amounts.count(folded, "table") + " are equal"
                    : "and " + Amounts.count(folded, "table") + (folded == 1 ? " that is" : " that are") + " equal";
            console.line(style.faint("  " + equalOnes + "; --all lists them"));
        }
        TotalsView.show(console, result);
        new DifferenceView(first, result).show(console);
        result.definitions().ifPresent(d -> StructureView.show(console, d, all ? Integer.MAX_VALUE : MOST_LISTED));
        new Report(console).notes("To be known", result.findings());
        console.line("");
        long equal = result.tables().stream()
                .filter(t -> t.verdict() == Verdict.EQUAL)
                .count();
        long values = result.tables().stream()
                .flatMap(t -> t.rules().stream())
                .mapToLong(r -> Math.max(0, r.values()))
                .sum();
        long used = result.tables().stream()
                .flatMap(t -> t.rules().stream())
                .map(AppliedRule::rule)
                .distinct()
                .count();
        String byRules = used == 0
                ? "."
                : ", by " + Amounts.count(used, "rule")
                        + (values == 0 ? "." : ", " + Amounts.count(values, "value") + ".");
        String of =
                Amounts.count(equal) + " of " + Amounts.count(result.tables().size(), "table");
        if (result.sample().isPresent()) {
            sampled(result, equal, progress);
            return;
        }
        boolean records = equal == result.tables().size();
        console.line((records ? style.good(of + " equal" + byRules) : style.bad(of + " equal" + byRules))
                + style.faint(" " + Amounts.time(progress.elapsed())));
    }

    /** What a sample shows, and what it doesn't. */
    private void sampled(ReconcileResult result, long alike, ProgressLine progress) {
        SampleCount count = result.sample().orElseThrow();
        String of = Amounts.count(alike) + " of "
                + Amounts.count(result.tables().size(), "table") + " alike in a sample of "
                + count.percent().stripTrailingZeros().toPlainString() + " %.";
        console.line((alike == result.tables().size()
                        ? console.style().warning(of)
                        : console.style().bad(of))
                + console.style().faint(" " + Amounts.time(progress.elapsed())));
        console.line(Amounts.count(count.rows()) + " of " + Amounts.count(count.all(), "record")
                + " were compared; of the others only the number is known.");
    }

    private static String rows(OptionalLong count) {
        return count.isPresent() ? Amounts.count(count.getAsLong()) : "–";
    }

    private static String verdict(Style style, Verdict verdict) {
        return switch (verdict) {
            case EQUAL -> style.good("equal");
            case DIFFERENT -> style.bad("different");
            case MISSING_IN_TARGET -> style.bad("missing in target");
            case MISSING_IN_SOURCE -> style.bad("missing in source");
        };
    }

    private static boolean ruled(ReconcileResult result) {
        return result.tables().stream().anyMatch(t -> !t.rules().isEmpty());
    }

    /** What differs in a table, in short. */
    static String what(ComparedTable table, Depth depth) {
        List<String> parts = new ArrayList<>();
        table.rows().filter(r -> r.all() > 0).ifPresent(rows -> parts.add(DifferenceView.counts(rows)));
        String columns = columns(table, depth);
        if (!columns.isEmpty()) {
            parts.add((parts.isEmpty() ? "" : "in ") + columns);
        }
        table.rules()
                .forEach(r -> parts.add(
                        r.values() < 0
                                ? "not compared: " + r.rule().substring(r.rule().indexOf('=') + 1)
                                : "equal by " + r.rule() + ": " + Amounts.count(r.values(), "value")));
        return String.join("; ", parts);
    }

    private static String columns(ComparedTable table, Depth depth) {
        List<String> parts = new ArrayList<>(table.differing());
        table.onlyAtSource().forEach(c -> parts.add(c + " (only at the source)"));
        table.onlyAtTarget().forEach(c -> parts.add(c + " (only at the target)"));
        if (parts.isEmpty()
                && table.verdict() == Verdict.DIFFERENT
                && depth == Depth.DIGESTS
                && table.sourceRows().equals(table.targetRows())) {
            return "none alone: the same values stand in other records";
        }
        return String.join(", ", parts);
    }

    private ObjectNode json(ReconcileResult result, List<RowDifference> first) {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("equal", result.isEqual());
        result.sample().ifPresent(c -> root.putObject("sample")
                .put("percent", c.percent())
                .put("records", c.rows())
                .put("of", c.all())
                .put("alike", result.isWithoutDifference()));
        root.put("depth", result.depth().name().toLowerCase(java.util.Locale.ROOT));
        ArrayNode array = root.putArray("tables");
        for (ComparedTable table : result.tables()) {
            ObjectNode node = array.addObject();
            node.put("table", table.table().toString());
            table.sourceRows().ifPresent(n -> node.put("sourceRows", n));
            table.targetRows().ifPresent(n -> node.put("targetRows", n));
            node.put(
                    "verdict",
                    table.verdict().name().toLowerCase(java.util.Locale.ROOT).replace('_', ' '));
            table.differing().forEach(node.putArray("differingColumns")::add);
            table.onlyAtSource().forEach(node.putArray("onlyAtSource")::add);
            table.onlyAtTarget().forEach(node.putArray("onlyAtTarget")::add);
            if (!table.totals().isEmpty()) {
                node.set("totals", TotalsView.json(table));
            }
            table.rows().ifPresent(rows -> node.putObject("records")
                    .put("missing", rows.missing())
                    .put("extra", rows.extra())
                    .put("different", rows.different()));
            if (!table.rules().isEmpty()) {
                ArrayNode applied = node.putArray("rules");
                table.rules()
                        .forEach(r -> applied.addObject().put("rule", r.rule()).put("values", r.values()));
            }
            if (result.depth() != Depth.COUNTS) {
                node.put("sourceDigest", table.sourceDigest());
                node.put("targetDigest", table.targetDigest());
            }
        }
        if (result.depth() == Depth.ROWS) {
            root.set("differences", DifferenceView.json(first));
        }
        result.definitions().ifPresent(d -> root.set("definitions", StructureView.json(d)));
        root.set("findings", Report.findings(result.findings().stream()));
        return root;
    }
}
