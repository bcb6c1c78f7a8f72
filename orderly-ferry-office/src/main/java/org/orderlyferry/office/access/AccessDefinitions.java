package org.orderlyferry.office.access;

import com.healthmarketscience.jackcess.Column;
import com.healthmarketscience.jackcess.Index;
import com.healthmarketscience.jackcess.PropertyMap;
import com.healthmarketscience.jackcess.Relationship;
import com.healthmarketscience.jackcess.Table;
import com.healthmarketscience.jackcess.query.Query;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.ValueText;

/**
 * The definitions that a file holds. Names and types that it can't hold as they were stand in properties of ours beside them, which
 * are believed as long as they agree with what is there.
 */
final class AccessDefinitions {

    /** The property that holds a name as it was. */
    static final String NAME = "OrderlyFerryName";

    /** The property that holds a type as it was. */
    static final String TYPE = "OrderlyFerryType";

    private final AccessInput input;
    private final Map<String, TableName> names = new LinkedHashMap<>();
    private final Map<Table, TableDefinition> tables = new LinkedHashMap<>();
    private final List<LeftBehind> leftBehind = new ArrayList<>();

    AccessDefinitions(AccessInput input) {
        this.input = input;
        List<Table> held = input.tables();
        held.forEach(t -> names.put(t.getName(), TableName.of(name(t))));
        try {
            for (Table table : held) {
                tables.put(table, table(table));
            }
            others();
        } catch (IOException | RuntimeException e) {
            throw input.failed(e);
        }
    }

    private String name(Table table) {
        try {
            return original(table.getProperties(), table.getName());
        } catch (IOException | RuntimeException e) {
            throw input.failed(e);
        }
    }

    private static String original(PropertyMap properties, String inFile) {
        Object kept = properties.getValue(NAME);
        return kept instanceof String name && !name.isEmpty() && AccessNames.isMadeOf(inFile, name) ? name : inFile;
    }

    /** All tables of the file, by those of the file. */
    Map<Table, TableDefinition> tables() {
        return tables;
    }

    /** What is in the file and can't be carried. */
    List<LeftBehind> leftBehind() {
        return leftBehind;
    }

    private void others() throws IOException {
        for (Query query : input.database().getQueries()) {
            leftBehind.add(new LeftBehind(
                    "query", query.getName(), "its SQL is the program's own; make it anew at the target"));
        }
        for (String linked : input.linked()) {
            leftBehind.add(
                    new LeftBehind("linked table", linked, "its records stand in another file, which isn't opened"));
        }
    }

    /** A column's name as it was before it came into a file. */
    static String name(Column column) throws IOException {
        return original(column.getProperties(), column.getName());
    }

    private TableDefinition table(Table table) throws IOException {
        TableDefinition.Builder builder = TableDefinition.named(names.get(table.getName()));
        Object comment = table.getProperties().getValue(PropertyMap.DESCRIPTION_PROP);
        builder.comment(comment instanceof String text ? text : "");
        Map<String, String> columns = new LinkedHashMap<>();
        for (Column column : table.getColumns()) {
            if (AccessTypes.isCarried(column)) {
                columns.put(column.getName(), name(column));
                builder.column(column(table, column));
            } else {
                left(table, "column", column.getName(), "it holds attachments or several values at once");
            }
        }
        rule(table, "", table.getProperties());
        keys(table, builder, columns);
        references(table, builder, columns);
        return builder.build();
    }

    /** Of a table, or of a part of it. */
    private void left(Table table, String kind, String part, String reason) {
        TableName name = names.get(table.getName());
        leftBehind.add(part.isEmpty() ? LeftBehind.of(name, kind, reason) : LeftBehind.of(name, kind, part, reason));
    }

    /** Of a column, or of all columns of a table together. */
    private void rule(Table table, String column, PropertyMap properties) {
        if (properties.getValue(PropertyMap.VALIDATION_RULE_PROP) instanceof String rule && !rule.isBlank()) {
            left(table, "check", column, "its expression is the program's own: " + rule);
        }
    }

    private ColumnDefinition column(Table table, Column column) throws IOException {
        PropertyMap properties = column.getProperties();
        LogicalType type = type(column, properties);
        boolean key = table.getIndexes().stream()
                .filter(Index::isPrimaryKey)
                .flatMap(i -> i.getColumns().stream())
                .anyMatch(c -> c.getName().equals(column.getName()));
        boolean required = Boolean.TRUE.equals(properties.getValue(PropertyMap.REQUIRED_PROP));
        Object comment = properties.getValue(PropertyMap.DESCRIPTION_PROP);
        ColumnDefinition.Builder builder = ColumnDefinition.named(name(column), type)
                .nullable(!key && !required && column.getType() != com.healthmarketscience.jackcess.DataType.BOOLEAN)
                .comment(comment instanceof String text ? text : "");
        if (column.isAutoNumber() && type.name().isExactNumber()) {
            builder.identity(Optional.of(new Identity(false, 1, 1, 1)));
        } else if (column.isAutoNumber()) {
            left(table, "default", column.getName(), "the program gives each new record a value of its own");
        } else if (properties.getValue(PropertyMap.DEFAULT_VALUE_PROP) instanceof String value) {
            builder.defaultValue(constant(value, type));
            if (constant(value, type).isEmpty() && !value.isBlank()) {
                left(table, "default", column.getName(), "the expression means something else elsewhere: " + value);
            }
        }
        rule(table, column.getName(), properties);
        if (type.name().isText() && Boolean.FALSE.equals(properties.getValue(PropertyMap.ALLOW_ZERO_LEN_PROP))) {
            left(table, "check", column.getName(), "the program takes no empty text there");
        }
        if (column.isCalculated()) {
            left(
                    table,
                    "generation rule",
                    column.getName(),
                    "the column arrives with its values, but without its rule");
        }
        return builder.build();
    }

    private static LogicalType type(Column column, PropertyMap properties) {
        LogicalType held = AccessTypes.logical(column);
        if (properties.getValue(TYPE) instanceof String kept) {
            try {
                LogicalType type = LogicalType.parse(kept);
                return AccessValues.canGive(column.getType(), type) ? type : held;
            } catch (IllegalArgumentException e) {
                // somebody has written into it what he likes
                return held;
            }
        }
        return held;
    }

    private static Optional<ColumnDefault> constant(String value, LogicalType type) {
        String text = value.strip();
        if (text.startsWith("=")) {
            text = text.substring(1).strip();
        }
        if (text.length() > 1 && text.startsWith("\"") && text.endsWith("\"")) {
            text = text.substring(1, text.length() - 1).replace("\"\"", "\"");
        } else if (type.name().isText() || text.matches("(?i)yes|no")) {
            text = text.equalsIgnoreCase("yes") ? "true" : text.equalsIgnoreCase("no") ? "false" : text;
            if (type.name().isText()) {
                return Optional.empty();
            }
        }
        if (type.name().isBinary()) {
            return Optional.empty();
        }
        try {
            ValueText form = ValueText.of(type);
            byte[] bytes = text.getBytes(java.nio.charset.StandardCharsets.UTF_8);
            return Optional.of(
                    new ColumnDefault.Literal(form.isProper(bytes, 0, bytes.length) ? text : form.toProper(text)));
        } catch (InvalidValueException e) {
            return Optional.empty();
        }
    }

    private static List<String> columns(Index index, Map<String, String> columns) {
        return index.getColumns().stream().map(c -> columns.get(c.getName())).toList();
    }

    private static void keys(Table table, TableDefinition.Builder builder, Map<String, String> columns) {
        for (Index index : table.getIndexes()) {
            List<String> on = columns(index, columns);
            if (index.isForeignKey() || on.stream().anyMatch(Objects::isNull)) {
                // what a relationship needs for itself
                continue;
            }
            if (index.isPrimaryKey()) {
                builder.primaryKey(new Key(index.getName().equals("PrimaryKey") ? "" : index.getName(), on));
            } else {
                List<IndexDefinition.Part> parts = new ArrayList<>();
                for (Index.Column part : index.getColumns()) {
                    parts.add(new IndexDefinition.Part(columns.get(part.getName()), !part.isAscending()));
                }
                builder.index(new IndexDefinition(index.getName(), index.isUnique(), parts));
            }
        }
    }

    /** Asked table by table: those between tables of another file would have that file opened. */
    private void references(Table table, TableDefinition.Builder builder, Map<String, String> columns)
            throws IOException {
        for (Relationship relationship : input.database().getRelationships(table)) {
            if (!relationship.getToTable().getName().equals(table.getName())
                    || !names.containsKey(relationship.getFromTable().getName())) {
                continue;
            }
            if (!relationship.hasReferentialIntegrity()) {
                leftBehind.add(new LeftBehind(
                        "relationship", relationship.getName(), "nothing sees to it that its records are there"));
                continue;
            }
            List<String> targets = new ArrayList<>();
            for (Column column : relationship.getFromColumns()) {
                targets.add(name(column));
            }
            builder.foreignKey(new ForeignKey(
                    relationship.getName(),
                    relationship.getToColumns().stream()
                            .map(c -> columns.get(c.getName()))
                            .toList(),
                    names.get(relationship.getFromTable().getName()),
                    targets,
                    relationship.cascadeUpdates() ? ReferentialAction.CASCADE : ReferentialAction.NO_ACTION,
                    relationship.cascadeDeletes()
                            ? ReferentialAction.CASCADE
                            : relationship.cascadeNullOnDelete()
                                    ? ReferentialAction.SET_NULL
                                    : ReferentialAction.NO_ACTION));
        }
    }
}
