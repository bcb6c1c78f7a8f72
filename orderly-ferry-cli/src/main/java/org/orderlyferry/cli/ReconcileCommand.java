package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.reconcile.ComparedTable;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.reconcile.Verdict;
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

    @Option(
            names = "--depth",
            paramLabel = "counts|digests",
            description = "Compare the numbers of records, or every value. Default: digests.")
    private Depth depth = Depth.DIGESTS;

    @Option(
            names = "--lanes",
            paramLabel = "N",
            description = "How many slices are read at once on each side, each over a connection of its own. Default:"
                    + " ${DEFAULT-VALUE}.")
    private int lanes = 1;

    @Mixin
    private JsonOption json;

    ReconcileCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (Place from = Opening.of(
                        console, PlaceAddress.of(source), PlaceOptions.of().build());
                Place to = Opening.of(
                        console, PlaceAddress.of(target), PlaceOptions.of().build());
                ProgressLine progress = new ProgressLine(console)) {
            ReconcileResult result = Reconcile.between(from, to)
                    .depth(depth)
                    .lanes(lanes)
                    .tables(tables.toArray(String[]::new))
                    .listener(progress)
                    .stopSignal(console.stop())
                    .compare();
            progress.end();
            if (json.isOn()) {
                console.json(json(result));
            } else {
                show(from, to, result, progress);
            }
            return result.isEqual() ? ExitCode.DONE : ExitCode.DIFFERENCES;
        }
    }

    private void show(Place from, Place to, ReconcileResult result, ProgressLine progress) {
        Style style = console.style();
        console.line(style.strong("Reconciled by " + (depth == Depth.COUNTS ? "counts" : "digests of every value")));
        console.line("  source  " + from.address() + " (" + from.system() + ")");
        console.line("  target  " + to.address() + " (" + to.system() + ")");
        console.line("");
        TextTable table = new TextTable()
                .left("table")
                .right("source rows")
                .right("target rows")
                .left("verdict")
                .left(result.isEqual() ? "" : "columns that differ");
        for (ComparedTable compared : result.tables()) {
            table.row(
                    compared.table().toString(),
                    rows(compared.sourceRows()),
                    rows(compared.targetRows()),
                    verdict(style, compared.verdict()),
                    columns(compared));
        }
        table.lines(style).forEach(console::line);
        new Report(console).notes("To be known", result.findings());
        console.line("");
        long equal = result.tables().stream()
                .filter(t -> t.verdict() == Verdict.EQUAL)
                .count();
        String of =
                Amounts.count(equal) + " of " + Amounts.count(result.tables().size(), "table");
        console.line((result.isEqual() ? style.good(of + " equal.") : style.bad(of + " equal."))
                + style.faint(" " + Amounts.time(progress.elapsed())));
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

    private String columns(ComparedTable table) {
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

    private ObjectNode json(ReconcileResult result) {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("equal", result.isEqual());
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
            if (result.depth() == Depth.DIGESTS) {
                node.put("sourceDigest", table.sourceDigest());
                node.put("targetDigest", table.targetDigest());
            }
        }
        root.set("findings", Report.findings(result.findings().stream()));
        return root;
    }
}
