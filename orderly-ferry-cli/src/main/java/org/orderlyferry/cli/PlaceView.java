package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import org.orderlyferry.exportset.ExportSet;
import org.orderlyferry.file.FileTables;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.work.FailedTable;

/** All of a place's tables, as {@code look} shows them. */
record PlaceView(
        String address,
        String system,
        List<Line> lines,
        List<FailedTable> denied,
        List<String> databases,
        List<LeftBehind> leftBehind,
        List<Finding> notices,
        List<Finding> changes) {

    /** Of more tables than that, those that need no look are folded into a count. */
    private static final int MOST_LISTED = 30;

    /** One table. */
    record Line(TableDefinition table, long rows, long broken, OptionalLong bytes) {
        /** Whether there is nothing that a person could miss. */
        boolean isEmpty() {
            return rows == 0 && broken == 0;
        }

        String primaryKey() {
            return table.primaryKey().map(k -> String.join(", ", k.columns())).orElse("–");
        }

        String refersTo() {
            return table.foreignKeys().stream()
                    .map(k -> k.target().equals(table.name())
                            ? "itself"
                            : k.target().toString())
                    .distinct()
                    .collect(Collectors.joining(", "));
        }
    }

    /**
     * Looks at tables.
     *
     * @param patterns which of them; none for all
     */
    static PlaceView of(Place place, List<String> patterns, TableOrder order) {
        List<Line> lines = new ArrayList<>();
        List<FailedTable> denied = new ArrayList<>();
        List<Finding> notices = new ArrayList<>();
        for (TableName name : TableChoice.of(place, patterns)) {
            try {
                BrokenRecords broken = new BrokenRecords(name);
                long rows = place.keptTally(name)
                        .map(t -> t.rows())
                        .orElseGet(() ->
                                place instanceof FileTables files ? files.count(name, broken) : place.count(name));
                lines.add(new Line(place.define(name), rows, broken.count(), place.bytes(name)));
                notices.addAll(broken.findings());
            } catch (PlaceException e) {
                if (!e.isDenied()) {
                    throw e;
                }
                denied.add(new FailedTable(name, e.getMessage()));
            }
        }
        List<TableName> names = lines.stream().map(l -> l.table().name()).toList();
        lines.sort(order.order());
        notices.addAll(0, place.notices(names));
        return new PlaceView(
                place.address(),
                place.system(),
                lines,
                denied,
                place.databases(),
                patterns.isEmpty() ? place.leftBehind() : place.leftBehind(names),
                notices,
                place instanceof ExportSet set ? set.changes() : List.of());
    }

    /**
     * Shows them.
     *
     * @param all whether empty ones are listed too, however many tables there are
     */
    void show(Console console, boolean all) {
        boolean fold = !all && lines.size() > MOST_LISTED;
        long folded = fold ? lines.stream().filter(Line::isEmpty).count() : 0;
        long rows = lines.stream().mapToLong(Line::rows).sum();
        boolean sized = lines.stream().anyMatch(l -> l.bytes().isPresent());
        String bytes = sized
                ? Amounts.bytes(
                        lines.stream().mapToLong(l -> l.bytes().orElse(0)).sum())
                : "–";
        console.line(console.style().strong(address) + "  " + system);
        console.line("");
        if (!databases.isEmpty()) {
            console.line("The address names no database of this server. It has: " + String.join(", ", databases));
            console.line("");
        }
        TextTable table = new TextTable()
                .left("table")
                .right("rows")
                .right("size")
                .right("columns")
                .left("primary key")
                .left("refers to");
        for (Line line : lines) {
            if (fold && line.isEmpty()) {
                continue;
            }
            table.row(
                    line.table().name().toString(),
                    Amounts.count(line.rows()),
                    line.bytes().isPresent() ? Amounts.bytes(line.bytes().getAsLong()) : "–",
                    Amounts.count(line.table().columns().size()),
                    line.primaryKey(),
                    line.refersTo());
        }
        table.sums().row(Amounts.count(lines.size(), "table"), Amounts.count(rows), bytes, "", "", "");
        table.lines(console.style()).forEach(console::line);
        if (folded > 0) {
            console.line(console.style()
                    .faint("  " + Amounts.count(folded, "table") + (folded == 1 ? " is empty" : " are empty")
                            + "; --all lists them"));
        }
        new Report(console).notes("Can't be read", denied);
        new Report(console).notes("Can't be carried", leftBehind);
        new Report(console).notes("To be known", notices);
        new Report(console).notes("Changed since the set was made", changes);
    }

    ObjectNode json() {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("place", address);
        root.put("system", system);
        ArrayNode tables = root.putArray("tables");
        for (Line line : lines) {
            ObjectNode node = tables.addObject();
            node.put("table", line.table().name().toString());
            node.put("rows", line.rows());
            if (line.broken() > 0) {
                node.put("broken", line.broken());
            }
            line.bytes().ifPresent(b -> node.put("bytes", b));
            node.put("columns", line.table().columns().size());
            ArrayNode key = node.putArray("primaryKey");
            line.table().primaryKey().ifPresent(k -> k.columns().forEach(key::add));
            ArrayNode references = node.putArray("refersTo");
            line.table().foreignKeys().forEach(k -> references.add(k.target().toString()));
        }
        denied.forEach(d -> root.withArray("denied")
                .addObject()
                .put("table", d.table().toString())
                .put("reason", d.reason()));
        databases.forEach(root.putArray("databases")::add);
        root.set("leftBehind", Report.leftBehind(leftBehind));
        root.set("odd", Report.findings(notices.stream()));
        root.set("changes", Report.findings(changes.stream()));
        return root;
    }
}
