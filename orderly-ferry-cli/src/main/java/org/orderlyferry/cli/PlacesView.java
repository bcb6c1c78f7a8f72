package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Function;
import org.orderlyferry.file.FileTables;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.problem.FerryException;

/** Several places in a line each, as {@code look} shows them: what each is, how much is in it, and which are worth a closer look. */
record PlacesView(List<Line> lines, List<Unread> unread) {

    /**
     * A place.
     *
     * @param odd how many things of its values should be known; absent of what isn't a file
     */
    record Line(String address, String system, int tables, long rows, int columns, OptionalLong odd) {}

    /** One that can't be read, and why. */
    record Unread(String address, String reason) {
        @Override
        public String toString() {
            return reason.startsWith(address) ? reason : address + ": " + reason;
        }
    }

    /**
     * Looks at all of them; one that can't be read doesn't keep the others from being looked at.
     *
     * @param open opens one
     */
    static PlacesView of(List<String> addresses, Function<String, Place> open) {
        List<Line> lines = new ArrayList<>();
        List<Unread> unread = new ArrayList<>();
        for (String address : addresses) {
            try (Place place = open.apply(address)) {
                lines.add(line(place));
            } catch (FerryException e) {
                unread.add(new Unread(address, e.getMessage()));
            }
        }
        return new PlacesView(lines, unread);
    }

    private static Line line(Place place) {
        long rows = 0;
        int columns = 0;
        List<TableName> tables = place.tables();
        if (!(place instanceof FileTables files)) {
            for (TableName table : tables) {
                rows += place.keptTally(table).map(t -> t.rows()).orElseGet(() -> place.count(table));
                columns += place.define(table).columns().size();
            }
            return new Line(place.address(), place.system(), tables.size(), rows, columns, OptionalLong.empty());
        }
        Set<Finding> odd = new HashSet<>(place.notices());
        for (TableName table : tables) {
            boolean proposed = files.isProposed(table);
            rows += files.profile(table).rows();
            columns += place.define(table).columns().size();
            odd.addAll(
                    proposed
                            ? files.propose(table).findings()
                            : files.profile(table).findings());
        }
        String form = files.form().isEmpty() ? "" : " " + files.form();
        return new Line(
                place.address(), place.system() + form, tables.size(), rows, columns, OptionalLong.of(odd.size()));
    }

    void show(Console console) {
        TextTable table = new TextTable()
                .left("place")
                .left("what it is")
                .right("tables")
                .right("records")
                .right("fields")
                .right("odd");
        for (Line line : lines) {
            table.row(
                    line.address(),
                    line.system(),
                    Amounts.count(line.tables()),
                    Amounts.count(line.rows()),
                    Amounts.count(line.columns()),
                    line.odd().isPresent() ? Amounts.count(line.odd().getAsLong()) : "–");
        }
        table.sums()
                .row(
                        Amounts.count(lines.size(), "place"),
                        "",
                        Amounts.count(lines.stream().mapToLong(Line::tables).sum()),
                        Amounts.count(lines.stream().mapToLong(Line::rows).sum()),
                        "",
                        "");
        table.lines(console.style()).forEach(console::line);
        new Report(console).notes("Can't be read", unread);
        lines.stream().filter(l -> l.odd().orElse(0) > 0).findFirst().ifPresent(l -> {
            console.line("");
            console.line("What is odd: ferry look " + Argument.all(List.of(l.address())));
        });
    }

    ObjectNode json() {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        ArrayNode places = root.putArray("places");
        for (Line line : lines) {
            ObjectNode node = places.addObject();
            node.put("place", line.address());
            node.put("system", line.system());
            node.put("tables", line.tables());
            node.put("rows", line.rows());
            node.put("columns", line.columns());
            line.odd().ifPresent(odd -> node.put("odd", odd));
        }
        ArrayNode not = root.putArray("unread");
        unread.forEach(u -> not.addObject().put("place", u.address()).put("reason", u.reason()));
        return root;
    }
}
