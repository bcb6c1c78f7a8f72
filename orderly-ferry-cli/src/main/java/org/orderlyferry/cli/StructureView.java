package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import org.orderlyferry.reconcile.ComparedDefinitions;
import org.orderlyferry.reconcile.DefinitionDifference;
import org.orderlyferry.reconcile.TickedThing;

/** What comparing definitions came to, for the terminal and as JSON. */
final class StructureView {

    private static final int MOST_CHARACTERS = 44;

    private StructureView() {}

    /**
     * Shows it.
     *
     * @param most how many differences that a system forces are listed; more are only counted
     */
    static void show(Console console, ComparedDefinitions compared, int most) {
        Style style = console.style();
        List<DefinitionDifference> different =
                compared.differences().stream().filter(d -> !d.forced()).toList();
        List<DefinitionDifference> forced = compared.differences().stream()
                .filter(DefinitionDifference::forced)
                .toList();
        console.line("");
        console.line(style.strong(
                        "Definitions of " + Amounts.count(compared.tables().size(), "table")) + ": "
                + (different.isEmpty()
                        ? style.good("all that the target can have")
                        : style.bad(Amounts.count(different.size(), "difference")))
                + (forced.isEmpty() ? "" : ", " + Amounts.count(forced.size()) + " forced by the target's system"));
        TextTable table = new TextTable()
                .left("table")
                .left("column")
                .left("part")
                .left("at the source")
                .left("at the target")
                .left("");
        different.forEach(d -> row(table, d, style.bad("different")));
        boolean listed = forced.size() <= most;
        if (listed) {
            forced.forEach(d -> row(table, d, style.faint("forced")));
        }
        if (!table.isEmpty()) {
            table.lines(style).forEach(console::line);
        }
        if (!listed) {
            console.line(style.faint("  --all lists those that are forced"));
        }
        if (compared.leftBehind().isEmpty()) {
            return;
        }
        long made = compared.leftBehind().stream().filter(TickedThing::made).count();
        console.line("");
        console.line(style.strong("Not carried by any load") + ": " + made + " of "
                + Amounts.count(compared.leftBehind().size()) + " made since");
        TextTable things = new TextTable().left("").left("kind").left("name").left("why it wasn't carried");
        compared.leftBehind()
                .forEach(t -> things.row(
                        t.made() ? style.good("made since") : style.warning("still missing"),
                        t.thing().kind(),
                        t.thing().name(),
                        t.made() ? "" : t.thing().reason()));
        things.lines(style).forEach(console::line);
    }

    private static void row(TextTable table, DefinitionDifference difference, String verdict) {
        table.row(
                difference.table().toString(),
                difference.column(),
                difference.part().toString(),
                shown(difference.source()),
                shown(difference.target()),
                verdict);
    }

    private static String shown(String text) {
        return text.isEmpty() ? "–" : TextTable.cut(text, MOST_CHARACTERS);
    }

    static ObjectNode json(ComparedDefinitions compared) {
        ObjectNode root = JsonNodeFactory.instance
                .objectNode()
                .put("tables", compared.tables().size())
                .put("equal", compared.areEqual());
        ArrayNode differences = root.putArray("differences");
        compared.differences().forEach(d -> differences
                .addObject()
                .put("table", d.table().toString())
                .put("column", d.column())
                .put("part", d.part().toString())
                .put("source", d.source())
                .put("target", d.target())
                .put("forced", d.forced()));
        ArrayNode left = root.putArray("leftBehind");
        compared.leftBehind().forEach(t -> left.addObject()
                .put("kind", t.thing().kind())
                .put("name", t.thing().name())
                .put("reason", t.thing().reason())
                .put("made", t.made()));
        return root;
    }
}
