package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.Duration;
import java.util.List;
import java.util.stream.Stream;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.transfer.MovedTable;
import org.orderlyferry.transfer.TransferResult;

/** What an export or a load came to, for people and for machines. */
final class Report {

    private final Console console;

    Report(Console console) {
        this.console = console;
    }

    void transfer(TransferResult result, Duration time) {
        TextTable table = new TextTable()
                .left("table")
                .right("read")
                .right("written")
                .right("size")
                .right("time");
        for (MovedTable moved : result.tables()) {
            table.row(
                    moved.table().toString(),
                    Amounts.count(moved.read()),
                    Amounts.count(moved.written()),
                    Amounts.bytes(moved.bytes()),
                    Amounts.time(moved.time()));
        }
        long read = result.tables().stream().mapToLong(MovedTable::read).sum();
        table.sums()
                .row(
                        Amounts.count(result.tables().size(), "table"),
                        Amounts.count(read),
                        Amounts.count(result.rows()),
                        Amounts.bytes(result.bytes()),
                        Amounts.time(time));
        table.lines(console.style()).forEach(console::line);
        notes("Arrived in another form", result.findings());
        notes("Left behind", result.leftBehind());
    }

    /** A list of things under a heading; nothing where there are none. */
    void notes(String heading, List<?> things) {
        if (!things.isEmpty()) {
            console.line("");
            console.line(console.style().warning(heading + " (" + Amounts.count(things.size()) + ")"));
            things.forEach(thing -> console.line("  " + thing));
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
            node.put("bytes", moved.bytes());
            node.put("digest", moved.tally().digest().toString());
            node.put("seconds", moved.time().toMillis() / 1000.0);
        }
        root.put("rows", result.rows());
        root.put("bytes", result.bytes());
        root.put("seconds", time.toMillis() / 1000.0);
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
