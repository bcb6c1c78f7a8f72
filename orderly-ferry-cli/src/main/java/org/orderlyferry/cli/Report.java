package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.transfer.MovedTable;
import org.orderlyferry.transfer.RejectFile;
import org.orderlyferry.transfer.TransferResult;

/** What an export or a load came to, for people and for machines. */
final class Report {

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
        boolean merged = result.tables().stream().anyMatch(m -> m.merged().isPresent());
        TextTable table = new TextTable().left("table").right("read");
        if (written) {
            table.right("written");
        }
        if (merged) {
            table.right("new").right("changed").right("unchanged");
        }
        table.right("size").right("time");
        for (MovedTable moved : result.tables()) {
            table.row(cells(moved, merged, written));
        }
        long read = result.tables().stream().mapToLong(MovedTable::read).sum();
        List<String> sums =
                new ArrayList<>(List.of(Amounts.count(result.tables().size(), "table"), Amounts.count(read)));
        if (written) {
            sums.add(Amounts.count(result.rows()));
        }
        if (merged) {
            sums.addAll(List.of("", "", ""));
        }
        sums.addAll(List.of(Amounts.bytes(result.bytes()), Amounts.time(time)));
        table.sums().row(sums.toArray(String[]::new));
        table.lines(console.style()).forEach(console::line);
        notes("Couldn't be read", result.failed());
        notes("To be known", result.findings());
        notes("Left behind", result.leftBehind());
    }

    private static String[] cells(MovedTable moved, boolean merged, boolean written) {
        List<String> cells = new ArrayList<>(List.of(moved.table().toString(), Amounts.count(moved.read())));
        if (written) {
            cells.add(Amounts.count(moved.written()));
        }
        if (merged) {
            cells.add(moved.merged().map(m -> Amounts.count(m.inserted())).orElse("–"));
            cells.add(moved.merged().map(m -> Amounts.count(m.updated())).orElse("–"));
            cells.add(moved.merged().map(m -> Amounts.count(m.unchanged())).orElse("–"));
        }
        cells.add(Amounts.bytes(moved.bytes()));
        cells.add(Amounts.time(moved.time()));
        return cells.toArray(String[]::new);
    }

    /** A list of things under a heading; nothing where there are none. */
    void notes(String heading, List<?> things) {
        if (!things.isEmpty()) {
            console.line("");
            console.line(console.style().warning(heading + " (" + Amounts.count(things.size()) + ")"));
            things.forEach(thing -> console.wrapped("  ", thing.toString()));
        }
    }

    /** What became of all records, in one line. */
    static String sum(Console console, TransferResult result, Optional<RejectFile> rejects) {
        if (result.rejected() == 0) {
            String all = result.rows() == 1
                    ? "The one record is in"
                    : "All " + Amounts.count(result.rows(), "record") + " are in";
            return console.style().good(all) + "; none was rejected.";
        }
        return console.style().bad(Amounts.count(result.rejected(), "record") + " rejected")
                + (result.rejected() == 1 ? ", with its reason in " : ", each with its reason in ")
                + rejects.orElseThrow().file() + ": "
                + Amounts.count(result.rows() + result.rejected()) + " read = " + Amounts.count(result.rows())
                + " written + " + Amounts.count(result.rejected()) + " rejected.";
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
