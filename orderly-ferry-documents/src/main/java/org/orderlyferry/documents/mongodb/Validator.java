package org.orderlyferry.documents.mongodb;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonString;
import org.bson.BsonValue;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/**
 * What a collection has of its documents' form: a {@code $jsonSchema}, by which the server refuses what isn't so. What tables know
 * and documents have no words for, such as that a text is a DATE, stands there as the fields' descriptions.
 */
final class Validator {

    /** In front of a type of ours. */
    private static final String TYPE = "SQL: ";

    private final BsonDocument properties;
    private final Set<String> required;

    private Validator(BsonDocument schema) {
        this.properties = schema.getDocument("properties");
        this.required = schema.containsKey("required")
                ? schema.getArray("required").stream()
                        .filter(BsonValue::isString)
                        .map(v -> v.asString().getValue())
                        .collect(Collectors.toSet())
                : Set.of();
    }

    /** What a collection was made with; empty where it says nothing of fields. */
    static Optional<Validator> of(BsonDocument options) {
        BsonValue validator = options.get("validator");
        BsonValue schema = validator != null && validator.isDocument()
                ? validator.asDocument().get("$jsonSchema")
                : null;
        return schema != null
                        && schema.isDocument()
                        && schema.asDocument().containsKey("properties")
                        && schema.asDocument().get("properties").isDocument()
                ? Optional.of(new Validator(schema.asDocument()))
                : Optional.empty();
    }

    /** Whether a collection's validator is one of ours: all of it is in its fields' descriptions. */
    static boolean isOurs(BsonDocument options) {
        return of(options)
                .filter(v ->
                        v.properties.keySet().stream().allMatch(p -> v.type(p).isPresent()))
                .isPresent();
    }

    /** The columns that were found by reading, with what the collection says of them; and those that it has no values of. */
    List<ColumnDefinition> columns(List<ColumnDefinition> found) {
        List<ColumnDefinition> columns = new ArrayList<>();
        for (ColumnDefinition column : found) {
            columns.add(described(column));
        }
        for (String name : properties.keySet()) {
            if (found.stream().noneMatch(c -> c.name().equals(name)) && !name.equals(KeyStats.ID)) {
                declared(name).ifPresent(columns::add);
            }
        }
        return columns;
    }

    private ColumnDefinition described(ColumnDefinition found) {
        ColumnDefinition.Builder column = found.toBuilder();
        if (required.contains(found.name()) && !allowsNull(found.name())) {
            column.nullable(false);
        }
        Optional<LogicalType> type = type(found.name())
                .filter(t -> Held.of(ColumnDefinition.of(found.name(), t), Held.SYSTEM) == Held.of(found, Held.SYSTEM));
        return type.map(t -> column.build().withType(t)).orElseGet(column::build);
    }

    private Optional<ColumnDefinition> declared(String name) {
        return type(name).map(t -> ColumnDefinition.named(name, t)
                .nullable(!required.contains(name) || allowsNull(name))
                .sourceType(Held.of(ColumnDefinition.of(name, t), "").word().orElse(""))
                .build());
    }

    private boolean allowsNull(String name) {
        BsonValue type =
                properties.isDocument(name) ? properties.getDocument(name).get("bsonType") : null;
        return type == null
                || type.isArray() && type.asArray().contains(new BsonString("null"))
                || type.equals(new BsonString("null"));
    }

    private Optional<LogicalType> type(String name) {
        if (!properties.containsKey(name) || !properties.isDocument(name)) {
            return Optional.empty();
        }
        BsonValue description = properties.getDocument(name).get("description");
        if (description == null
                || !description.isString()
                || !description.asString().getValue().startsWith(TYPE)) {
            return Optional.empty();
        }
        try {
            return Optional.of(
                    LogicalType.parse(description.asString().getValue().substring(TYPE.length())));
        } catch (IllegalArgumentException e) {
            // somebody else's words
            return Optional.empty();
        }
    }

    /** What a table's documents are to be like. */
    static BsonDocument of(TableDefinition table, boolean writesNulls) {
        BsonDocument properties = new BsonDocument();
        BsonArray required = new BsonArray();
        for (ColumnDefinition column : table.columns()) {
            if (KeyStats.isOfKey(column.name())) {
                continue;
            }
            BsonDocument property = new BsonDocument();
            Held.of(column, table.system()).word().ifPresent(word -> property.append("bsonType", type(column, word)));
            if (column.type().name().isText() && column.type().isSized()) {
                property.append("maxLength", new BsonInt32(column.type().size()));
            }
            property.append("description", new BsonString(TYPE + column.type()));
            properties.append(column.name(), property);
            // a null of a column of JSON is no field, since null is one of its values
            boolean always = writesNulls && Held.of(column, table.system()) != Held.JSON;
            if (!column.nullable() || always) {
                required.add(new BsonString(column.name()));
            }
        }
        BsonDocument schema = new BsonDocument("bsonType", new BsonString("object"));
        if (!required.isEmpty()) {
            schema.append("required", required);
        }
        return new BsonDocument("$jsonSchema", schema.append("properties", properties));
    }

    private static BsonValue type(ColumnDefinition column, String word) {
        BsonString type = new BsonString(word);
        return column.nullable() ? new BsonArray(List.of(type, new BsonString("null"))) : type;
    }
}
