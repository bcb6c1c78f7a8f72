package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.reconcile.ColumnTotal;
import org.orderlyferry.reconcile.ComparedTable;
import org.orderlyferry.reconcile.ComparedTotals;
import org.orderlyferry.reconcile.ReconcileResult;

/** Control totals of both sides, for the terminal and as JSON. */
final class TotalsView {

    private static final int MOST_CHARACTERS = 27;

    private TotalsView() {}

    static void show(Console console, ReconcileResult result) {
        List<ComparedTable> all =
                result.tables().stream().filter(t -> !t.totals().isEmpty()).toList();
        if (all.isEmpty()) {
            return;
        }
        Style style = console.style();
        console.line("");
        console.line(style.strong("Control totals"));
        TextTable table = new TextTable()
                .left("table")
                .left("column")
                .left("side")
                .right("values")
                .right("nulls")
                .right("smallest")
                .right("largest")
                .right("sum")
                .right("length")
                .left(isAsked(all) ? "by its own SQL" : "");
        for (ComparedTable compared : all) {
            String name = compared.table().toString();
            for (ComparedTotals totals : compared.totals()) {
                if (totals.equal()) {
                    row(table, name, totals.column(), style.good("both"), totals.source(), both(style, totals));
                } else {
                    row(
                            table,
                            name,
                            totals.column(),
                            style.bad("source"),
                            totals.source(),
                            said(style, totals.sourceConfirmed()));
                    row(table, "", "", style.bad("target"), totals.target(), said(style, totals.targetConfirmed()));
                }
                name = "";
            }
        }
        table.lines(style).forEach(console::line);
    }

    private static void row(
            TextTable table, String name, String column, String side, ColumnTotal total, String confirmed) {
        table.row(
                name,
                column,
                side,
                Amounts.count(total.values()),
                Amounts.count(total.nulls()),
                shown(total.smallest()),
                shown(total.largest()),
                total.sum().map(s -> shortened(s.toPlainString())).orElse(""),
                total.length().isPresent() ? Amounts.count(total.length().getAsLong()) : "",
                confirmed);
    }

    private static boolean isAsked(List<ComparedTable> tables) {
        return tables.stream()
                .flatMap(t -> t.totals().stream())
                .anyMatch(t ->
                        t.sourceConfirmed().isPresent() || t.targetConfirmed().isPresent());
    }

    private static String said(Style style, Optional<Boolean> confirmed) {
        return confirmed
                .map(same -> same ? style.good("the same") : style.bad("otherwise"))
                .orElse("");
    }

    private static String both(Style style, ComparedTotals totals) {
        if (totals.isContradicted()) {
            return style.bad(
                    totals.sourceConfirmed().orElse(true) ? "otherwise at the target" : "otherwise at the source");
        }
        boolean one = totals.sourceConfirmed().isPresent();
        boolean other = totals.targetConfirmed().isPresent();
        return one && other
                ? style.good("the same")
                : one ? style.good("source: the same") : other ? style.good("target: the same") : "";
    }

    private static String shown(Optional<String> value) {
        return value.map(TotalsView::shortened).orElse("");
    }

    private static String shortened(String text) {
        boolean tooLong = text.codePointCount(0, text.length()) > MOST_CHARACTERS;
        String shown = tooLong ? text.substring(0, text.offsetByCodePoints(0, MOST_CHARACTERS)) + "…" : text;
        boolean plain = !shown.isEmpty() && shown.equals(shown.strip());
        return plain && shown.chars().noneMatch(Character::isISOControl) ? shown : BadValueException.shown(shown);
    }

    static ArrayNode json(ComparedTable table) {
        ArrayNode array = JsonNodeFactory.instance.arrayNode();
        for (ComparedTotals totals : table.totals()) {
            ObjectNode node = array.addObject().put("column", totals.column()).put("equal", totals.equal());
            totals.sourceConfirmed().ifPresent(c -> node.put("sourceConfirmed", c));
            totals.targetConfirmed().ifPresent(c -> node.put("targetConfirmed", c));
            node.set("source", json(totals.source()));
            node.set("target", json(totals.target()));
        }
        return array;
    }

    private static ObjectNode json(ColumnTotal total) {
        ObjectNode node = JsonNodeFactory.instance
                .objectNode()
                .put("values", total.values())
                .put("nulls", total.nulls());
        total.smallest().ifPresent(v -> node.put("smallest", v));
        total.largest().ifPresent(v -> node.put("largest", v));
        total.sum().ifPresent(v -> node.put("sum", v.toString()));
        total.length().ifPresent(v -> node.put("length", v));
        return node;
    }
}
