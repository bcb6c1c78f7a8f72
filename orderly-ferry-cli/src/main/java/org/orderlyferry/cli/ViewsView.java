package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import org.orderlyferry.place.DocumentView;
import org.orderlyferry.view.MadeView;
import org.orderlyferry.view.ProposedViews;

/** Views of what stands in documents, for people and for machines. */
final class ViewsView {

    private final Console console;

    ViewsView(Console console) {
        this.console = console;
    }

    /** What would be made. */
    void show(ProposedViews views) {
        views.views().forEach(v -> console.wrapped("", "Would make " + what(v) + "."));
    }

    /** What became of them. */
    void show(List<MadeView> made) {
        for (MadeView one : made) {
            if (one.isMade()) {
                console.wrapped(
                        "",
                        console.style().good("Made") + " " + what(one.view())
                                + (one.isProven() ? ", each with as many values as the source has" : "") + ".");
            }
            one.leftBehind().forEach(l -> console.wrapped("  ", console.style().warning("Not shown: ") + l));
        }
        if (!made.isEmpty()) {
            console.line("");
        }
    }

    private static String what(DocumentView view) {
        return "view " + view.name() + " over " + view.table() + ": "
                + Amounts.count(view.plain().size(), "column") + " of its own, "
                + Amounts.count(view.columns().size(), "path") + " of its documents";
    }

    /** The same as JSON. */
    static void json(List<MadeView> made, ObjectNode node) {
        ArrayNode views = node.putArray("views");
        for (MadeView one : made) {
            ObjectNode view = views.addObject()
                    .put("name", one.view().name().toString())
                    .put("table", one.view().table().toString())
                    .put("made", one.isMade())
                    .put("proven", one.isProven());
            ArrayNode columns = view.putArray("columns");
            one.view().columns().forEach(c -> columns.addObject()
                    .put("name", c.name())
                    .put("path", String.join(".", c.path()))
                    .put("type", c.type().toString())
                    .put("values", c.values()));
            ArrayNode left = view.putArray("leftBehind");
            one.leftBehind().forEach(l -> left.add(l.toString()));
        }
    }
}
