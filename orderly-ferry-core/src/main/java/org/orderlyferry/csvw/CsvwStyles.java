package org.orderlyferry.csvw;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/** How a file writes the values of its columns: CSVW's {@code format} of a datatype, and back. */
public final class CsvwStyles {

    private CsvwStyles() {}

    /** The styles of those columns that have one. */
    public static Map<String, ValueStyle> read(JsonNode schema, TableDefinition table) {
        Map<String, ValueStyle> styles = new LinkedHashMap<>();
        int index = 0;
        for (JsonNode node : schema.path("columns")) {
            if (node.path("virtual").asBoolean(false)) {
                continue;
            }
            ColumnDefinition column = table.columns().get(index++);
            JsonNode format = node.path("datatype").path("format");
            if (!format.isMissingNode()) {
                ValueStyle style = style(format, column.type());
                if (style.changes(column.type())) {
                    styles.put(column.name(), style);
                }
            }
        }
        return styles;
    }

    /** The rules of those columns that have some. */
    public static Map<String, CellRule> rules(JsonNode schema, TableDefinition table) {
        Map<String, CellRule> rules = new LinkedHashMap<>();
        int index = 0;
        for (JsonNode node : schema.path("columns")) {
            if (node.path("virtual").asBoolean(false)) {
                continue;
            }
            ColumnDefinition column = table.columns().get(index++);
            boolean list = node.hasNonNull("separator") && column.type().name() == TypeName.ARRAY;
            CellRule rule = new CellRule(
                    nulls(node.path("null")),
                    Optional.of(node.path("default").asText("")).filter(d -> !d.isEmpty()),
                    list ? Optional.of(node.get("separator").asText()) : Optional.empty(),
                    list
                            ? style(
                                    node.path("datatype").path("format"),
                                    column.type().element())
                            : ValueStyle.PLAIN);
            if (!rule.saysNothing()) {
                rules.put(column.name(), rule);
            }
        }
        return rules;
    }

    private static Optional<List<String>> nulls(JsonNode words) {
        if (words.isTextual()) {
            return Optional.of(List.of(words.asText()));
        }
        List<String> several = new ArrayList<>();
        words.forEach(w -> several.add(w.asText()));
        return words.isArray() ? Optional.of(several) : Optional.empty();
    }

    private static ValueStyle style(JsonNode format, LogicalType type) {
        if (format.isMissingNode()) {
            return ValueStyle.PLAIN;
        }
        return switch (type.name()) {
            case BOOLEAN -> ValueStyle.PLAIN.withTruth(format.asText());
            case SMALLINT, INTEGER, BIGINT, DECIMAL, REAL, DOUBLE -> {
                // a pattern alone, such as #,##0.00, has these two characters' usual meaning
                String decimal = format.path("decimalChar").asText(".");
                String group = format.isTextual() && format.asText().contains(",") ? "," : "";
                yield ValueStyle.PLAIN
                        .withDecimalChar(decimal.isEmpty() ? '.' : decimal.charAt(0))
                        .withGroupChar(format.path("groupChar").asText(group));
            }
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> ValueStyle.PLAIN.withPattern(format.asText());
            default -> ValueStyle.PLAIN;
        };
    }

    /** Adds styles to a schema that was written for the table. */
    public static void write(Map<String, ValueStyle> styles, TableDefinition table, ObjectNode schema) {
        for (int i = 0; i < table.columns().size(); i++) {
            ColumnDefinition column = table.columns().get(i);
            ValueStyle style = styles.get(column.name());
            if (style != null && style.changes(column.type())) {
                ObjectNode node = (ObjectNode) schema.path("columns").get(i);
                JsonNode old = node.get("datatype");
                ObjectNode datatype = old.isObject()
                        ? (ObjectNode) old
                        : JsonNodeFactory.instance.objectNode().put("base", old.asText());
                node.set("datatype", datatype);
                switch (column.type().name()) {
                    case BOOLEAN -> datatype.put("format", style.trueText() + "|" + style.falseText());
                    case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> datatype.put("format", style.pattern());
                    default -> {
                        ObjectNode format = datatype.putObject("format");
                        format.put("decimalChar", String.valueOf(style.decimalChar()));
                        if (!style.groupChar().isEmpty()) {
                            format.put("groupChar", style.groupChar());
                        }
                    }
                }
            }
        }
    }
}
