package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.ToLongFunction;
import java.util.stream.Stream;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.place.Merged;
import org.orderlyferry.work.MovedTable;
import org.orderlyferry.work.RejectFile;
import org.orderlyferry.work.TransferResult;

/** What an export or a load came to, for people and for machines. */
final class Report {

    static final String NOT_ALL =
            "They may not be all: what changes records at the source and isn't followed here stands above.";

    private final Console console;

    Report(Console console) {
        this.console = console;
    }

    void transfer(TransferResult result, Duration time) {
        transfer(result, time, true);
    }

    /**
     * Shows what a load came to.
     *
     * @param written whether anything was written, rather than only looked at
     */
    void transfer(TransferResult result, Duration time, boolean written) {
        List<Figure> figures = new ArrayList<>();
        figures.add(new Figure("read", m -> Amounts.count(m.read())));
        if (written) {
            figures.add(new Figure("written", m -> Amounts.count(m.written())));
        }
        if (result.rejected() > 0) {
            figures.add(new Figure("rejected", m -> Amounts.count(m.rejected())));
        }
        if (result.leftOut() > 0) {
            figures.add(new Figure("left out", m -> Amounts.count(m.leftOut())));
        }
        if (result.tables().stream().anyMatch(m -> m.merged().isPresent())) {
            figures.add(Figure.merged("new", Merged::inserted));
            figures.add(Figure.merged("changed", Merged::updated));
            figures.add(Figure.merged("unchanged", Merged::unchanged));
        }
        TextTable table = new TextTable().left("table");
        figures.forEach(f -> table.right(f.heading()));
        table.right("size").right("time");
        for (MovedTable moved : result.tables()) {
            List<String> cells = new ArrayList<>(List.of(moved.table().toString()));
            figures.forEach(f -> cells.add(f.of().apply(moved)));
            cells.add(Amounts.bytes(moved.bytes()));
            cells.add(Amounts.time(moved.time()));
            table.row(cells.toArray(String[]::new));
        }
        List<String> sums =
                new ArrayList<>(List.of(Amounts.count(result.tables().size(), "table")));
        for (Figure figure : figures) {
            sums.add(
                    switch (figure.heading()) {
                        case "read" -> Amounts.count(result.rows() + result.rejected() + result.leftOut());
                        case "written" -> Amounts.count(result.rows());
                        case "rejected" -> Amounts.count(result.rejected());
                        case "left out" -> Amounts.count(result.leftOut());
                        default -> "";
                    });
        }
        sums.addAll(List.of(Amounts.bytes(result.bytes()), Amounts.time(time)));
        table.sums().row(sums.toArray(String[]::new));
        table.lines(console.style()).forEach(console::line);
        notes("Couldn't be read", result.failed());
        notes("To be known", result.findings());
        notes("Left behind", result.leftBehind());
    }

    /** A column of figures. */
    private record Figure(String heading, Function<MovedTable, String> of) {
        static Figure merged(String heading, ToLongFunction<Merged> figure) {
            return new Figure(heading, m -> m.merged()
                    .map(done -> Amounts.count(figure.applyAsLong(done)))
                    .orElse("–"));
        }
    }

    /** A list of things under a heading; nothing where there are none. */
    void notes(String heading, List<?> things) {
        Notes.show(console, heading, things);
    }

    /**
     * What became of all records: a sentence, and a line that adds up.
     *
     * @param with what came with them; empty for nothing
     */
    static void sum(Console console, TransferResult result, Optional<RejectFile> rejects, String with) {
        // counted by who reads, as the tallies are; what is written is counted by who writes
        long read =
                result.tables().stream().mapToLong(m -> m.tally().rows()).sum() + result.rejected() + result.leftOut();
        String all = result.rows() == 1 && read == 1 && !result.mayLackRecords()
                ? "The one record is in"
                : read == result.rows() && !result.mayLackRecords()
                        ? "All " + Amounts.count(result.rows(), "record") + " are in"
                        : Amounts.count(result.rows(), "record") + (result.rows() == 1 ? " is in" : " are in");
        String head = result.rejected() == 0
                ? console.style().good(all) + (result.rows() == 1 ? with.replace("their", "its") : with)
                : all + with + ", "
                        + console.style().bad(Amounts.count(result.rejected(), "record") + " rejected")
                        + (result.rejected() == 1 ? ", with its reason in " : ", each with its reason in ")
                        + rejects.orElseThrow().file();
        console.line(head + ".");
        String sum = Amounts.count(read) + " read " + (result.addsUp() ? "=" : "isn't") + " "
                + Amounts.count(result.rows()) + " written + " + Amounts.count(result.rejected()) + " rejected + "
                + Amounts.count(result.leftOut()) + " left out by a condition";
        console.line(result.addsUp() ? sum : console.style().bad(sum));
        if (result.mayLackRecords()) {
            console.line(console.style().bad(NOT_ALL));
        }
    }

    static ObjectNode json(TransferResult result, Duration time) {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        ArrayNode tables = root.putArray("tables");
        for (MovedTable moved : result.tables()) {
            ObjectNode node = tables.addObject();
            node.put("table", moved.table().toString());
            node.put("read", moved.read());
            node.put("written", moved.written());
            node.put("rejected", moved.rejected());
            node.put("leftOut", moved.leftOut());
            node.put("bytes", moved.bytes());
            node.put("digest", moved.tally().digest().toString());
            node.put("seconds", moved.time().toMillis() / 1000.0);
            moved.merged().ifPresent(m -> node.putObject("merged")
                    .put("inserted", m.inserted())
                    .put("updated", m.updated())
                    .put("unchanged", m.unchanged()));
        }
        root.put("rows", result.rows());
        root.put("bytes", result.bytes());
        root.put("seconds", time.toMillis() / 1000.0);
        ArrayNode failed = root.putArray("failed");
        result.failed()
                .forEach(f ->
                        failed.addObject().put("table", f.table().toString()).put("reason", f.reason()));
        root.set("findings", findings(result.findings().stream()));
        root.set("leftBehind", leftBehind(result.leftBehind()));
        return root;
    }

    static ArrayNode findings(Stream<Finding> findings) {
        ArrayNode array = JsonNodeFactory.instance.arrayNode();
        findings.forEach(f -> array.addObject()
                .put("code", f.code().toString())
                .put("severity", f.code().severity().name().toLowerCase(java.util.Locale.ROOT))
                .put("table", f.table().toString())
                .put("column", f.column())
                .put("text", f.text()));
        return array;
    }

    static ArrayNode leftBehind(List<LeftBehind> things) {
        ArrayNode array = JsonNodeFactory.instance.arrayNode();
        things.forEach(t ->
                array.addObject().put("kind", t.kind()).put("name", t.name()).put("reason", t.reason()));
        return array;
    }
}
