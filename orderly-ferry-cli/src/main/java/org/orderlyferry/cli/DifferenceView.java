package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.reconcile.RecordValues;
import org.orderlyferry.reconcile.RowCounts;
import org.orderlyferry.reconcile.RowDifference;

/** The first records that differ, for the terminal and as JSON. */
final class DifferenceView {

    /** How many are shown. */
    static final int MOST = 20;

    private static final int MOST_COLUMNS = 4;
    private static final int MOST_CHARACTERS = 32;

    private final List<RowDifference> first;
    private final long all;

    DifferenceView(List<RowDifference> first, ReconcileResult result) {
        this.first = first;
        this.all = result.tables().stream()
                .flatMap(t -> t.rows().stream())
                .mapToLong(RowCounts::all)
                .sum();
    }

    /** How many of each kind, of those kinds that there are. */
    static String counts(RowCounts rows) {
        List<String> parts = new ArrayList<>();
        if (rows.missing() > 0) {
            parts.add(Amounts.count(rows.missing()) + " missing");
        }
        if (rows.extra() > 0) {
            parts.add(Amounts.count(rows.extra()) + " only there");
        }
        if (rows.different() > 0) {
            parts.add(Amounts.count(rows.different()) + " different");
        }
        return String.join(", ", parts);
    }

    void show(Console console) {
        if (first.isEmpty()) {
            return;
        }
        Style style = console.style();
        console.line("");
        String head = first.size() < all
                ? "The first " + first.size() + " of " + Amounts.count(all, "record") + " that differ"
                : first.size() == 1 ? "The record that differs" : "The " + first.size() + " records that differ";
        console.line(style.strong(head));
        TextTable table = new TextTable()
                .left("table")
                .left("record")
                .left("column")
                .left("at the source")
                .left("at the target");
        for (RowDifference difference : first) {
            String name = difference.table().name().toString();
            String key = key(difference);
            switch (difference.kind()) {
                case MISSING -> table.row(name, key, "", "is there", style.bad("missing"));
                case EXTRA -> table.row(name, key, "", "isn't there", style.bad("only there"));
                case DIFFERENT -> columns(table, difference, name, key);
            }
        }
        table.lines(style).forEach(console::line);
    }

    private static void columns(TextTable table, RowDifference difference, String name, String key) {
        List<String> differing = difference.differing();
        for (int i = 0; i < Math.min(MOST_COLUMNS, differing.size()); i++) {
            String column = differing.get(i);
            table.row(
                    i == 0 ? name : "",
                    i == 0 ? key : "",
                    column,
                    value(difference, difference.source(), column),
                    value(difference, difference.target(), column));
        }
        if (differing.size() > MOST_COLUMNS) {
            table.row("", "", "and " + Amounts.count(differing.size() - MOST_COLUMNS, "column") + " more", "", "");
        }
    }

    private static String key(RowDifference difference) {
        List<String> parts = new ArrayList<>();
        for (String column : difference.key()) {
            if (parts.size() == MOST_COLUMNS) {
                parts.add("…");
                break;
            }
            parts.add(column + "=" + value(difference, Optional.of(difference.any()), column));
        }
        return String.join(", ", parts);
    }

    private static String value(RowDifference difference, Optional<RecordValues> side, String column) {
        int place = difference.table().columnNames().indexOf(column);
        boolean binary = difference.table().columns().get(place).type().name().isBinary();
        String text =
                binary ? side.orElseThrow().hex(place) : side.orElseThrow().text(place);
        if (text == null) {
            return "null";
        }
        boolean long_ = text.codePointCount(0, text.length()) > MOST_CHARACTERS;
        String shown = long_ ? text.substring(0, text.offsetByCodePoints(0, MOST_CHARACTERS)) + "…" : text;
        // quoted where blanks, nothing at all or the word null could be taken for something else
        boolean plain = !shown.isEmpty() && shown.equals(shown.strip()) && !shown.equals("null");
        return plain && shown.chars().noneMatch(Character::isISOControl) ? shown : BadValueException.shown(shown);
    }

    static ArrayNode json(List<RowDifference> first) {
        ArrayNode array = JsonNodeFactory.instance.arrayNode();
        for (RowDifference difference : first) {
            ObjectNode node = array.addObject();
            node.put("table", difference.table().name().toString());
            node.put("difference", difference.kind().name().toLowerCase(Locale.ROOT));
            difference.key().forEach(node.putArray("key")::add);
            difference.source().ifPresent(v -> values(node.putObject("source"), difference, v));
            difference.target().ifPresent(v -> values(node.putObject("target"), difference, v));
            difference.differing().forEach(node.putArray("differingColumns")::add);
        }
        return array;
    }

    private static void values(ObjectNode node, RowDifference difference, RecordValues values) {
        for (int i = 0; i < difference.table().columns().size(); i++) {
            boolean binary = difference.table().columns().get(i).type().name().isBinary();
            node.put(difference.table().columns().get(i).name(), binary ? values.hex(i) : values.text(i));
        }
    }
}
