package org.orderlyferry.documents.store;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.FieldCounts;

/** What fields a collection's documents have, found out by reading all of them, where the collection has no description. */
final class FieldSurvey {

    /** The column of the documents' ids. */
    static final String ID = "id";

    private static final int LONGEST_ID = 1_500;
    private static final String NULL = "null";

    private static final class Field {
        private final Map<String, Long> kinds = new TreeMap<>();
        private long seen;
        private int longest;
    }

    private final Map<String, Field> fields = new LinkedHashMap<>();
    private long documents;

    private FieldSurvey() {}

    static FieldSurvey of(Client client, String collection) {
        FieldSurvey survey = new FieldSurvey();
        try (Pages pages = new Pages(client, collection)) {
            for (@Nullable JsonNode page = pages.next(); page != null; page = pages.next()) {
                page.forEach(d -> survey.take(d.path("fields")));
            }
        }
        return survey;
    }

    private void take(JsonNode document) {
        documents++;
        document.properties().forEach(f -> {
            Field field = fields.computeIfAbsent(f.getKey(), k -> new Field());
            JsonNode value = f.getValue();
            field.seen++;
            field.kinds.merge(value.isNull() ? NULL : TypedJson.kind(value), 1L, Long::sum);
            if (value.isTextual()) {
                String text = value.asText();
                field.longest = Math.max(field.longest, text.codePointCount(0, text.length()));
            }
        });
    }

    /** A column's name: a field that is called like the id has something behind it. */
    static String column(String field) {
        String name = field.startsWith("@@") ? field.substring(1) : field;
        return name.matches("id_*") ? name + "_" : name;
    }

    TableDefinition table(TableName name) {
        TableDefinition.Builder table = TableDefinition.named(name);
        table.column(ColumnDefinition.named(ID, LogicalType.varchar(LONGEST_ID))
                .nullable(false)
                .build());
        fields.forEach((field, found) -> table.column(ColumnDefinition.named(column(field), type(found))
                .nullable(found.seen < documents || found.kinds.containsKey(NULL))
                .build()));
        return table.primaryKey(new Key("", List.of(ID))).build();
    }

    private static LogicalType type(Field field) {
        Set<String> kinds = new java.util.TreeSet<>(field.kinds.keySet());
        kinds.remove(NULL);
        if (kinds.isEmpty()) {
            return LogicalType.varchar(1);
        }
        if (kinds.equals(Set.of("integer", "number")) || kinds.equals(Set.of("number", "@double"))) {
            return LogicalType.DOUBLE;
        }
        if (kinds.equals(Set.of("integer", "@decimal"))) {
            return LogicalType.of(TypeName.DECIMAL);
        }
        return kinds.size() == 1
                ? TypedJson.type(kinds.iterator().next(), field.longest).orElse(LogicalType.JSON)
                : LogicalType.JSON;
    }

    Map<String, FieldCounts> counts() {
        Map<String, FieldCounts> counts = new LinkedHashMap<>();
        List<String> names = new ArrayList<>(fields.keySet());
        names.forEach(n -> {
            Field field = fields.get(n);
            counts.put(column(n), new FieldCounts(field.kinds, documents - field.seen, field.longest));
        });
        return counts;
    }
}
