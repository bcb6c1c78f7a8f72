package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.FieldCounts;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.Rejects;

/**
 * One table with all that is known of it, as {@code look} shows it.
 *
 * @param referring references of other tables to this one, as sentences
 * @param found what was found of columns where the place has no definitions but those of its records
 * @param odd what a person should know of them
 * @param samples each a record's values, in the order of the columns; null for null
 */
record TableView(
        TableDefinition table,
        long rows,
        OptionalLong bytes,
        List<String> referring,
        List<List<String>> samples,
        Map<String, FieldCounts> found,
        List<Finding> odd) {

    private static final int MOST_BYTES_SHOWN = 16;
    private static final int MOST_ODD = 3;
    private static final int NARROWEST_SAMPLE = 12;

    static TableView of(Place place, TableName name, int samples) {
        TableDefinition table = place.define(name);
        long rows = place.keptTally(name).map(t -> t.rows()).orElseGet(() -> place.count(name));
        List<String> referring = new ArrayList<>();
        for (TableName other : place.referrers(name)) {
            for (ForeignKey key : place.define(other).foreignKeys()) {
                if (key.target().equals(name)) {
                    referring.add(other + " (" + String.join(", ", key.columns()) + ") → ("
                            + String.join(", ", key.targetColumns()) + ")");
                }
            }
        }
        // a reader of its own thread may tell
        List<Finding> odd = Collections.synchronizedList(new ArrayList<>());
        List<List<String>> shown = samples(place, table, samples, odd);
        odd.addAll(place.notices(List.of(name)));
        return new TableView(
                table, rows, place.bytes(name), referring, shown, place.fieldCounts(name), List.copyOf(odd));
    }

    /**
     * The first records.
     *
     * @param odd takes why some of them can't be shown: who looks wants to see the others all the same
     */
    private static List<List<String>> samples(Place place, TableDefinition table, int most, List<Finding> odd) {
        List<List<String>> samples = new ArrayList<>();
        RecordBatch batch = new RecordBatch();
        Rejects rejects = why -> {
            if (odd.size() < MOST_ODD) {
                odd.add(Finding.ofAll(FindingCode.RECORD_ODD, why.getMessage()));
            }
        };
        try (RecordReader reader = place.read(Slice.whole(table), rejects)) {
            if (most > 0 && reader.read(batch)) {
                for (int row = 0; row < Math.min(most, batch.rows()); row++) {
                    List<String> values = new ArrayList<>();
                    for (int column = 0; column < batch.columns(); column++) {
                        values.add(value(table.columns().get(column), batch, row, column));
                    }
                    samples.add(values);
                }
            }
        }
        return samples;
    }

    private static String value(ColumnDefinition column, Records batch, int row, int index) {
        if (batch.isNull(row, index) || !column.type().name().isBinary()) {
            return batch.text(row, index);
        }
        byte[] bytes = batch.copy(row, index);
        String hex = HexFormat.of().formatHex(bytes, 0, Math.min(bytes.length, MOST_BYTES_SHOWN));
        return hex + (bytes.length > MOST_BYTES_SHOWN ? "… " : bytes.length > 0 ? " " : "") + "("
                + Amounts.bytes(bytes.length) + ")";
    }

    void show(Console console) {
        Style style = console.style();
        console.line(style.strong(table.name().toString()) + "  " + Amounts.count(rows, "row")
                + (bytes.isPresent() ? ", " + Amounts.bytes(bytes.getAsLong()) : ""));
        if (!table.comment().isEmpty()) {
            console.line(table.comment());
        }
        console.line("");
        fields().lines(style).forEach(console::line);
        TextTable rules = new TextTable().left("").left("keys, references, rules");
        list(
                rules,
                "primary key",
                table.primaryKey().map(TableView::key).stream().toList());
        list(rules, "unique", table.uniqueKeys().stream().map(TableView::key).toList());
        list(
                rules,
                "refers to",
                table.foreignKeys().stream().map(TableView::reference).toList());
        list(rules, "referred to by", referring);
        list(rules, "check", table.checks().stream().map(c -> c.expression()).toList());
        list(rules, "index", table.indexes().stream().map(TableView::index).toList());
        if (!rules.isEmpty()) {
            console.line("");
            rules.lines(style).forEach(console::line);
        }
        if (!samples.isEmpty()) {
            console.line("");
            sampleTable(console).lines(style).forEach(console::line);
        }
        new Report(console).notes("To be known", odd);
    }

    private TextTable fields() {
        boolean commented = table.columns().stream().anyMatch(c -> !c.comment().isEmpty());
        TextTable fields = new TextTable()
                .right("#")
                .left("field")
                .left("type")
                .left("null")
                .left("key")
                .left("default")
                .left(commented ? "comment" : found.isEmpty() ? "" : "found");
        int number = 1;
        for (ColumnDefinition column : table.columns()) {
            fields.row(
                    String.valueOf(number++),
                    column.name(),
                    type(column),
                    column.nullable() ? "yes" : "no",
                    keys(column.name()),
                    filling(column),
                    commented || !found.containsKey(column.name())
                            ? column.comment()
                            : found(found.get(column.name())));
        }
        return fields;
    }

    /** How many values of which type there are, and how many records have none. */
    private static String found(FieldCounts counts) {
        List<String> words = new ArrayList<>();
        counts.types().forEach((type, count) -> words.add(Amounts.count(count) + " " + type));
        if (counts.longest() > 0) {
            words.add("up to " + Amounts.count(counts.longest(), "character"));
        }
        if (counts.absent() > 0) {
            words.add("absent from " + Amounts.count(counts.absent()));
        }
        return String.join(", ", words);
    }

    private static String type(ColumnDefinition column) {
        return column.enumeration()
                .map(e -> e.values().stream().collect(Collectors.joining(", ", "one of (", ")")))
                .map(e -> TextTable.cut(e, 40))
                .orElseGet(() -> column.type().toString());
    }

    /** P for a part of the primary key, U of a unique key, F of a reference. */
    private String keys(String column) {
        List<String> kinds = new ArrayList<>();
        if (table.primaryKey().isPresent() && table.primaryKey().get().columns().contains(column)) {
            kinds.add("primary");
        }
        if (table.uniqueKeys().stream().anyMatch(k -> k.columns().contains(column))) {
            kinds.add("unique");
        }
        if (table.foreignKeys().stream().anyMatch(k -> k.columns().contains(column))) {
            kinds.add("foreign");
        }
        return String.join(", ", kinds);
    }

    private static String filling(ColumnDefinition column) {
        if (column.identity().isPresent()) {
            return "identity, next " + column.identity().get().next();
        }
        if (column.generation().isPresent()) {
            return "generated: "
                    + TextTable.cut(column.generation().get().expression().sql(), 40);
        }
        return column.defaultValue()
                .map(value -> value instanceof ColumnDefault.Literal literal
                        ? "'" + TextTable.cut(literal.text(), 40) + "'"
                        : TextTable.cut(((ColumnDefault.Expression) value).sql(), 40))
                .orElse("");
    }

    private static String key(Key key) {
        return "(" + String.join(", ", key.columns()) + ")" + (key.name().isEmpty() ? "" : "  " + key.name());
    }

    private static String reference(ForeignKey key) {
        return "(" + String.join(", ", key.columns()) + ") → " + key.target() + " ("
                + String.join(", ", key.targetColumns()) + ")" + action(" on update ", key.onUpdate())
                + action(" on delete ", key.onDelete())
                + (key.deferrability().sql().isEmpty()
                        ? ""
                        : " " + key.deferrability().sql().toLowerCase(Locale.ROOT))
                + (key.name().isEmpty() ? "" : "  " + key.name());
    }

    private static String action(String words, ReferentialAction action) {
        boolean worthSaying = action != ReferentialAction.NO_ACTION && action != ReferentialAction.RESTRICT;
        return worthSaying ? words + action.sql() : "";
    }

    private static String index(IndexDefinition index) {
        String what = index.parts().isEmpty()
                ? index.own().map(o -> o.sql()).orElse("")
                : index.parts().stream()
                        .map(IndexDefinition.Part::toString)
                        .collect(Collectors.joining(", ", "(", ")"));
        return what + index.predicate().map(p -> " where " + p.sql()).orElse("") + (index.unique() ? " unique" : "")
                + "  " + index.name();
    }

    private static void list(TextTable rules, String heading, List<String> items) {
        String label = heading;
        for (String item : items) {
            rules.row(label, item);
            label = "";
        }
    }

    /** A record a column: a table of many fields is too wide to stand the other way. */
    private TextTable sampleTable(Console console) {
        int names = table.columns().stream()
                .mapToInt(c -> TextTable.width(c.name()))
                .max()
                .orElse(0);
        int places = (console.terminal().columns() - names - 2) / samples.size() - 3;
        TextTable shown = new TextTable().left("sample");
        for (int i = 1; i <= samples.size(); i++) {
            shown.left("record " + i);
        }
        for (int column = 0; column < table.columns().size(); column++) {
            String[] cells = new String[samples.size() + 1];
            cells[0] = table.columns().get(column).name();
            for (int i = 0; i < samples.size(); i++) {
                String value = samples.get(i).get(column);
                cells[i + 1] = value == null
                        ? console.style().faint("null")
                        : TextTable.cut(unmistakable(value), Math.max(NARROWEST_SAMPLE, places));
            }
            shown.row(cells);
        }
        return shown;
    }

    /** A text in quotes where the eye would take it for something else: for nothing, for null, for one without blanks. */
    private static String unmistakable(String value) {
        return value.isBlank() || value.equals("null") || !value.strip().equals(value) ? "'" + value + "'" : value;
    }

    ObjectNode json() {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("table", table.name().toString());
        root.put("rows", rows);
        bytes.ifPresent(b -> root.put("bytes", b));
        root.put("comment", table.comment());
        ArrayNode columns = root.putArray("columns");
        for (ColumnDefinition column : table.columns()) {
            ObjectNode shown = columns.addObject()
                    .put("name", column.name())
                    .put("type", column.type().toString())
                    .put("ownType", column.sourceType())
                    .put("nullable", column.nullable())
                    .put("key", keys(column.name()))
                    .put("default", filling(column))
                    .put("comment", column.comment());
            FieldCounts counts = found.get(column.name());
            if (counts != null) {
                ObjectNode types = shown.putObject("found");
                counts.types().forEach(types::put);
                shown.put("absent", counts.absent()).put("longest", counts.longest());
            }
        }
        ArrayNode primary = root.putArray("primaryKey");
        table.primaryKey().ifPresent(k -> k.columns().forEach(primary::add));
        table.uniqueKeys().stream().map(TableView::key).forEach(root.putArray("unique")::add);
        table.foreignKeys().stream().map(TableView::reference).forEach(root.putArray("refersTo")::add);
        referring.forEach(root.putArray("referredToBy")::add);
        table.checks().forEach(c -> root.withArray("checks").add(c.expression()));
        table.indexes().stream().map(TableView::index).forEach(root.putArray("indexes")::add);
        ArrayNode records = root.putArray("samples");
        for (List<String> sample : samples) {
            ArrayNode record = records.addArray();
            sample.forEach(record::add);
        }
        root.set("odd", Report.findings(odd.stream()));
        return root;
    }
}
