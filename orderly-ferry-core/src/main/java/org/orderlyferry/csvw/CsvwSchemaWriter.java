package org.orderlyferry.csvw;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Map;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** A table's definition as a CSVW schema: CSVW's own words first, the rest as annotations. */
public final class CsvwSchemaWriter {

    private final Map<TableName, String> schemaFiles;

    /**
     * Writes schemas of one set.
     *
     * @param schemaFiles each table's schema file, without its folder; references within the set go by them
     */
    public CsvwSchemaWriter(Map<TableName, String> schemaFiles) {
        this.schemaFiles = schemaFiles;
    }

    /** A table as a schema of CSVW. */
    public ObjectNode write(TableDefinition table) {
        ObjectNode schema = JsonNodeFactory.instance.objectNode();
        schema.put("@context", "http://www.w3.org/ns/csvw");
        schema.put("@type", "Schema");
        ArrayNode columns = schema.putArray("columns");
        table.columns().forEach(c -> columns.add(column(c)));
        table.primaryKey().ifPresent(key -> names(schema.putArray("primaryKey"), key.columns()));
        foreignKeys(table, schema);

        schema.put(Annotations.TABLE, table.name().name());
        if (!table.name().schema().isEmpty()) {
            schema.put(Annotations.SCHEMA, table.name().schema());
        }
        if (!table.system().isEmpty()) {
            schema.put(Annotations.SYSTEM, table.system());
        }
        if (!table.comment().isEmpty()) {
            schema.put(Annotations.COMMENT, table.comment());
        }
        table.primaryKey().ifPresent(key -> schema.set(Annotations.PRIMARY_KEY, key(key)));
        list(schema, Annotations.UNIQUE_KEYS, table.uniqueKeys(), CsvwSchemaWriter::key);
        list(schema, Annotations.FOREIGN_KEYS, table.foreignKeys(), CsvwSchemaWriter::foreignKey);
        list(schema, Annotations.CHECKS, table.checks(), CsvwSchemaWriter::check);
        list(schema, Annotations.INDEXES, table.indexes(), CsvwSchemaWriter::index);
        return schema;
    }

    private static ObjectNode column(ColumnDefinition column) {
        ObjectNode node = JsonNodeFactory.instance.objectNode();
        node.put("name", CsvwNames.safe(column.name()));
        node.put("titles", column.name());
        node.set("datatype", CsvwDatatype.of(column.type()));
        node.put("required", !column.nullable());
        node.put(Annotations.TYPE, column.type().toString());
        if (!column.sourceType().isEmpty()) {
            node.put(Annotations.SOURCE_TYPE, column.sourceType());
        }
        column.defaultValue().ifPresent(value -> {
            if (value instanceof ColumnDefault.Literal literal) {
                node.put(Annotations.DEFAULT_VALUE, literal.text());
            } else if (value instanceof ColumnDefault.Expression expression) {
                node.set(Annotations.DEFAULT_EXPRESSION, text(expression.text()));
            }
        });
        column.identity().ifPresent(identity -> identity(node.putObject(Annotations.IDENTITY), identity));
        column.generation()
                .ifPresent(rule -> node.set(
                        Annotations.GENERATED_AS, text(rule.expression()).put(Annotations.STORED, rule.stored())));
        column.enumeration().ifPresent(enumeration -> {
            ObjectNode inner = node.putObject(Annotations.ENUMERATION);
            inner.put(Annotations.NAME, enumeration.name());
            enumeration.values().forEach(inner.putArray(Annotations.VALUES)::add);
        });
        if (!column.collation().isEmpty()) {
            node.put(Annotations.COLLATION, column.collation());
        }
        if (!column.comment().isEmpty()) {
            node.put(Annotations.COMMENT, column.comment());
        }
        return node;
    }

    private static void identity(ObjectNode node, Identity identity) {
        node.put(Annotations.ALWAYS, identity.always());
        node.put(Annotations.START, identity.start());
        node.put(Annotations.INCREMENT, identity.increment());
        node.put(Annotations.NEXT, identity.next());
    }

    /** CSVW's own references: only to tables of the set, since others have no schema to point at. */
    private void foreignKeys(TableDefinition table, ObjectNode schema) {
        List<ForeignKey> inside = table.foreignKeys().stream()
                .filter(k -> schemaFiles.containsKey(k.target()))
                .toList();
        if (inside.isEmpty()) {
            return;
        }
        ArrayNode keys = schema.putArray("foreignKeys");
        for (ForeignKey key : inside) {
            ObjectNode node = keys.addObject();
            names(node.putArray("columnReference"), key.columns());
            ObjectNode reference = node.putObject("reference");
            reference.put("schemaReference", CsvwNames.url(schemaFiles.get(key.target())));
            names(reference.putArray("columnReference"), key.targetColumns());
        }
    }

    private static void names(ArrayNode to, List<String> columns) {
        columns.forEach(c -> to.add(CsvwNames.safe(c)));
    }

    private interface Item<T> {
        ObjectNode write(T item);
    }

    private static <T> void list(ObjectNode schema, String key, List<T> items, Item<T> writer) {
        if (!items.isEmpty()) {
            ArrayNode array = schema.putArray(key);
            items.forEach(item -> array.add(writer.write(item)));
        }
    }

    private static ObjectNode named(String name) {
        return JsonNodeFactory.instance.objectNode().put(Annotations.NAME, name);
    }

    private static ObjectNode columns(ObjectNode node, String key, List<String> columns) {
        ArrayNode array = node.putArray(key);
        columns.forEach(array::add);
        return node;
    }

    private static ObjectNode key(Key key) {
        return columns(named(key.name()), Annotations.COLUMNS, key.columns());
    }

    private static ObjectNode foreignKey(ForeignKey key) {
        ObjectNode node = columns(named(key.name()), Annotations.COLUMNS, key.columns());
        node.put(Annotations.TARGET_SCHEMA, key.target().schema());
        node.put(Annotations.TARGET_TABLE, key.target().name());
        columns(node, Annotations.TARGET_COLUMNS, key.targetColumns());
        node.put(Annotations.ON_UPDATE, key.onUpdate().sql());
        node.put(Annotations.ON_DELETE, key.onDelete().sql());
        if (key.deferrability() != Deferrability.NOT_DEFERRABLE) {
            node.put(Annotations.DEFERRABILITY, key.deferrability().name());
        }
        return node;
    }

    private static ObjectNode text(SqlText text) {
        return JsonNodeFactory.instance
                .objectNode()
                .put(Annotations.EXPRESSION, text.sql())
                .put(Annotations.SYSTEM, text.system());
    }

    private static ObjectNode check(CheckConstraint check) {
        return named(check.name()).setAll(text(check.condition()));
    }

    private static ObjectNode index(IndexDefinition index) {
        ObjectNode node = named(index.name()).put(Annotations.UNIQUE, index.unique());
        ArrayNode parts = node.putArray(Annotations.COLUMNS);
        for (IndexDefinition.Part part : index.parts()) {
            ObjectNode inner = parts.addObject();
            part.expression()
                    .ifPresentOrElse(
                            text -> inner.setAll(text(text)), () -> inner.put(Annotations.NAME, part.column()));
            inner.put(Annotations.DESCENDING, part.descending());
            if (part.prefix() > 0) {
                inner.put(Annotations.PREFIX, part.prefix());
            }
        }
        index.predicate().ifPresent(text -> node.set(Annotations.PREDICATE, text(text)));
        index.own().ifPresent(text -> node.set(Annotations.OWN, text(text)));
        return node;
    }
}
