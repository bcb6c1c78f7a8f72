package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.file.FileTables;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.profile.ColumnProfile;
import org.orderlyferry.profile.Proposal;
import org.orderlyferry.profile.TableProfile;

/** What the values of a file's table look like, as {@code look} shows it. */
record FileView(
        String address,
        String system,
        TableDefinition table,
        boolean proposed,
        TableProfile profile,
        List<List<String>> keys,
        List<Finding> odd,
        List<LeftBehind> leftBehind,
        long bytes) {

    private static final int SHOWN = 24;
    private static final int KEYS_SHOWN = 8;
    /** So few different values are counted without an error worth telling. */
    private static final int EXACT = 100;

    static FileView of(Place place, FileTables files, TableName name) {
        boolean proposed = files.isProposed(name);
        TableProfile profile = files.profile(name);
        Proposal proposal = files.propose(name);
        Set<Finding> odd = new LinkedHashSet<>(place.notices(List.of(name)));
        odd.addAll(proposed ? proposal.findings() : profile.findings());
        return new FileView(
                place.address(),
                place.system() + (files.form().isEmpty() ? "" : " " + files.form()),
                proposed ? proposal.table() : place.define(name),
                proposed,
                profile,
                proposal.keys(),
                List.copyOf(odd),
                place.leftBehind(),
                place.bytes(name).orElse(-1));
    }

    void show(Console console) {
        Style style = console.style();
        console.line(style.strong(address) + "  " + system + (bytes < 0 ? "" : ", " + Amounts.bytes(bytes)));
        console.line(table.name() + "  " + Amounts.count(profile.rows(), "record")
                + (profile.rejected() == 0
                        ? ""
                        : " and " + Amounts.count(profile.rejected()) + " more that can't be taken as they are")
                + ", "
                + Amounts.count(table.columns().size(), "field")
                + (proposed ? "; no definitions: types are proposed from all values" : ""));
        console.line("");
        TextTable fields = new TextTable()
                .right("#")
                .left("field")
                .left(proposed ? "proposed type" : "type")
                .right("nulls")
                .right("distinct")
                .left("length")
                .left("smallest")
                .left("largest")
                .left("examples");
        int number = 0;
        for (ColumnDefinition column : table.columns()) {
            ColumnProfile values = profile.column(column.name()).orElseThrow();
            fields.row(
                    Integer.toString(++number),
                    TextTable.cut(column.name(), SHOWN),
                    column.type().toString(),
                    Amounts.count(values.nulls()),
                    (values.isUnique() || values.distinct() <= EXACT ? "" : "≈ ") + Amounts.count(values.distinct()),
                    values.shortest() == values.longest()
                            ? Integer.toString(values.longest())
                            : values.shortest() + "–" + values.longest(),
                    values.smallest().map(t -> TextTable.cut(t, SHOWN)).orElse("–"),
                    values.largest().map(t -> TextTable.cut(t, SHOWN)).orElse("–"),
                    values.examples().stream()
                            .map(e -> TextTable.cut(e, SHOWN / 2))
                            // those that differ further on than is shown tell nothing
                            .distinct()
                            .collect(Collectors.joining(", ")));
        }
        fields.lines(style).forEach(console::line);
        console.line("");
        console.line(keysLine());
        new Report(console).notes("To be known", odd);
        new Report(console).notes("Can't be carried", leftBehind);
        if (proposed) {
            console.line("");
            console.line("To keep these definitions and change them: ferry look " + Argument.of(address)
                    + " --write-definitions FILE");
            console.line("and give FILE back with --definitions");
        }
    }

    private String keysLine() {
        if (keys.isEmpty()) {
            return "No field, and no two or three together, are unique and never null";
        }
        List<String> texts = new ArrayList<>();
        for (List<String> key : keys.subList(0, Math.min(KEYS_SHOWN, keys.size()))) {
            boolean taken =
                    table.primaryKey().filter(k -> k.columns().equals(key)).isPresent();
            texts.add(String.join(" + ", key) + (taken ? " (taken as primary key)" : ""));
        }
        if (keys.size() > KEYS_SHOWN) {
            texts.add("and " + (keys.size() - KEYS_SHOWN) + " more");
        }
        return "Unique and never null: " + String.join("; ", texts);
    }

    ObjectNode json() {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("place", address);
        root.put("format", system);
        root.put("table", table.name().toString());
        root.put("rows", profile.rows());
        root.put("rejected", profile.rejected());
        root.put("proposed", proposed);
        ArrayNode columns = root.putArray("columns");
        for (ColumnDefinition column : table.columns()) {
            ColumnProfile values = profile.column(column.name()).orElseThrow();
            ObjectNode node = columns.addObject();
            node.put("name", column.name());
            node.put("type", column.type().toString());
            node.put("nulls", values.nulls());
            node.put("empty", values.empty());
            node.put("distinct", values.distinct());
            node.put("unique", values.isUnique());
            node.put("shortest", values.shortest());
            node.put("longest", values.longest());
            values.smallest().ifPresent(t -> node.put("smallest", t));
            values.largest().ifPresent(t -> node.put("largest", t));
            ArrayNode examples = node.putArray("examples");
            values.examples().forEach(examples::add);
        }
        ArrayNode candidates = root.putArray("candidateKeys");
        keys.forEach(k -> {
            ArrayNode key = candidates.addArray();
            k.forEach(key::add);
        });
        root.set("odd", Report.findings(odd.stream()));
        root.set("leftBehind", Report.leftBehind(leftBehind));
        return root;
    }
}
