package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import org.orderlyferry.crossing.Check;
import org.orderlyferry.crossing.CheckResult;
import org.orderlyferry.crossing.Crossing;
import org.orderlyferry.crossing.TargetStatement;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.PlaceAddress;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "check",
        mixinStandardHelpOptions = true,
        description = "Say all that a crossing would do, and whether it could begin. Nothing is changed at either end.",
        footer = {"", "Example: ferry check crossing.yaml --values"})
final class CheckCommand implements Callable<Integer> {

    private final Console console;

    @Mixin
    private CrossingFile file;

    @Option(
            names = "--values",
            description =
                    "Look at every value, too: it takes as long as reading them, and finds what would be refused.")
    private boolean values;

    @Mixin
    private JsonOption json;

    CheckCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        Crossing crossing = file.read();
        try (ProgressLine progress = new ProgressLine(console)) {
            CheckResult result = Check.of(crossing)
                    .secrets(PlaceOptions.secrets())
                    .values(values)
                    .listener(progress)
                    .stopSignal(console.stop())
                    .check();
            progress.end();
            if (json.isOn()) {
                console.json(json(result));
            } else {
                show(crossing, result);
            }
            return result.isAllowed() ? ExitCode.DONE : ExitCode.DIFFERENCES;
        }
    }

    private void show(Crossing crossing, CheckResult result) {
        Style style = console.style();
        console.line(style.strong("Checked " + file.path()) + ", and changed nothing");
        console.line("  from  " + PlaceAddress.of(crossing.from()) + " (" + result.source() + ")");
        console.line("  to    " + PlaceAddress.of(crossing.to()) + " (" + result.target() + ")");
        console.line("");
        TextTable table = new TextTable()
                .left("table")
                .left("becomes")
                .right("rows about")
                .right("size")
                .left("cut")
                .left("at the target");
        long rows = 0;
        long bytes = 0;
        for (CheckResult.Table one : result.tables()) {
            rows += one.rows();
            bytes += one.bytes().orElse(0);
            table.row(
                    one.from().toString(),
                    one.to().toString(),
                    Amounts.count(one.rows()),
                    one.bytes().isPresent() ? Amounts.bytes(one.bytes().getAsLong()) : "–",
                    cut(one),
                    there(
                            crossing.modes().of(one.to()),
                            one.there(),
                            result.goesOn().isPresent()));
        }
        table.sums()
                .row(
                        Amounts.count(result.tables().size(), "table"),
                        "",
                        Amounts.count(rows),
                        bytes == 0 ? "–" : Amounts.bytes(bytes),
                        "",
                        "");
        table.lines(style).forEach(console::line);
        Report report = new Report(console);
        report.notes("To be known", result.findings());
        report.notes("Left behind", result.leftBehind());
        report.notes("At the target before the load", statements(crossing.before()));
        report.notes("At the target after the load", statements(crossing.after()));
        console.line("");
        kept(crossing, result);
        result.space()
                .ifPresent(s ->
                        console.line("Free where the set is kept: " + Amounts.bytes(s) + ", in " + crossing.keep()));
        result.time()
                .ifPresent(t -> console.line(
                        "Expected time: " + (t.toSeconds() == 0 ? "less than a second" : "about " + Amounts.time(t))));
        if (!result.obstacles().isEmpty()) {
            report.notes("It can't begin", result.obstacles());
        } else if (result.goesOn().isPresent()) {
            console.line(style.good("The run of " + result.goesOn().get() + " would go on") + ": ferry run "
                    + Argument.of(file.path()));
        } else {
            console.line(style.good("It can begin") + (values ? taken(result) : "") + ": ferry run "
                    + Argument.of(file.path()));
        }
    }

    private static String taken(CheckResult result) {
        return result.findings().stream().anyMatch(f -> f.code() == FindingCode.RECORD_REJECTED)
                ? ", without the records that would be rejected"
                : ", and every value would be taken";
    }

    private static List<String> statements(List<TargetStatement> all) {
        return all.stream()
                .map(s -> s.sql() + (s.undo().isEmpty() ? "; not undone" : "; undone by " + s.undo()))
                .toList();
    }

    /** How much of the target is kept before it changes. */
    private void kept(Crossing crossing, CheckResult result) {
        List<CheckResult.Table> there = result.tables().stream()
                .filter(t -> t.there().isPresent())
                .filter(t -> crossing.modes().of(t.to()) != LoadMode.CREATE)
                .toList();
        if (there.isEmpty()) {
            return;
        }
        long rows = there.stream().mapToLong(t -> t.there().orElse(0)).sum();
        console.line(
                crossing.backup()
                        ? (crossing.keepReplaced()
                                        ? "Kept in the target, beside what replaces it: "
                                        : "Kept of the target before it changes: ")
                                + Amounts.count(there.size(), "table") + ", about "
                                + Amounts.count(rows, "row")
                        : console.style()
                                .warning("Nothing is kept of the target before it changes: it can't be undone"));
    }

    private static String cut(CheckResult.Table table) {
        return table.cut().slices() == 1
                ? "one slice"
                : table.cut().slices() + " slices by "
                        + String.join(", ", table.cut().by());
    }

    private static String there(LoadMode onto, OptionalLong rows, boolean goesOn) {
        if (rows.isEmpty()) {
            return "is made";
        }
        String count = "has " + Amounts.count(rows.getAsLong(), "row");
        if (goesOn) {
            // what was to become of them is under way, or done
            return count;
        }
        return count + ", "
                + switch (onto) {
                    case CREATE -> "refused";
                    case APPEND -> "added to";
                    case REPLACE -> "replaced";
                    case MERGE -> "merged into";
                };
    }

    private static ObjectNode json(CheckResult result) {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("allowed", result.isAllowed());
        root.put("source", result.source()).put("target", result.target());
        ArrayNode tables = root.putArray("tables");
        for (CheckResult.Table table : result.tables()) {
            ObjectNode node = tables.addObject();
            node.put("from", table.from().toString())
                    .put("to", table.to().toString())
                    .put("rows", table.rows())
                    .put("slices", table.cut().slices());
            table.bytes().ifPresent(b -> node.put("bytes", b));
            table.there().ifPresent(r -> node.put("rowsAtTarget", r));
        }
        result.obstacles().forEach(root.putArray("obstacles")::add);
        root.set("findings", Report.findings(result.findings().stream()));
        root.set("leftBehind", Report.leftBehind(result.leftBehind()));
        result.goesOn().ifPresent(g -> root.put("goesOn", g));
        result.space().ifPresent(s -> root.put("freeBytes", s));
        result.time().ifPresent(t -> root.put("expectedSeconds", t.toMillis() / 1000.0));
        return root;
    }
}
