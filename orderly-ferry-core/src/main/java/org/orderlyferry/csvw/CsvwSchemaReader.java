package org.orderlyferry.csvw;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.BrokenSetException;

/** A CSVW schema as a table's definition; where the annotations are missing, CSVW's own words have to do. */
public final class CsvwSchemaReader {

    private final String set;
    private final Function<JsonNode, Optional<Target>> targets;

    /**
     * What a reference points at.
     *
     * @param name the table's name where its schema doesn't say it
     */
    public record Target(String name, JsonNode schema) {}

    /** A reader of schemas that refer to other tables by annotations alone. */
    public CsvwSchemaReader(String set) {
        this(set, reference -> Optional.empty());
    }

    /**
     * A reader.
     *
     * @param set what the schemas are of, for messages
     * @param targets what CSVW's own references point at, each by its {@code reference}
     */
    public CsvwSchemaReader(String set, Function<JsonNode, Optional<Target>> targets) {
        this.set = set;
        this.targets = targets;
    }

    /**
     * Reads a schema.
     *
     * @param otherwise the table's name where the schema doesn't say it
     */
    public TableDefinition read(JsonNode schema, String otherwise) {
        try {
            return definition(schema, otherwise);
        } catch (IllegalArgumentException e) {
            throw new BrokenSetException(set, "the definition of " + otherwise + " can't be used: " + e.getMessage());
        }
    }

    private TableDefinition definition(JsonNode schema, String otherwise) {
        TableName name = new TableName(
                schema.path(Annotations.SCHEMA).asText(""),
                schema.path(Annotations.TABLE).asText(otherwise));
        TableDefinition.Builder table = TableDefinition.named(name);
        List<String> safeNames = new ArrayList<>();
        List<String> realNames = new ArrayList<>();
        for (JsonNode node : schema.path("columns")) {
            if (node.path("virtual").asBoolean(false)) {
                continue;
            }
            ColumnDefinition column = column(node);
            table.column(column);
            safeNames.add(node.path("name").asText(CsvwNames.safe(column.name())));
            realNames.add(column.name());
        }
        if (realNames.isEmpty()) {
            throw new BrokenSetException(set, "the definition of " + name + " has no columns");
        }
        if (schema.has(Annotations.PRIMARY_KEY)) {
            table.primaryKey(key(schema.get(Annotations.PRIMARY_KEY)));
        } else if (schema.has("primaryKey")) {
            List<String> columns = named(schema.get("primaryKey"), safeNames, realNames, "the primary key of " + name);
            table.primaryKey(new Key("", columns));
        }
        each(schema, Annotations.UNIQUE_KEYS, CsvwSchemaReader::key).forEach(table::unique);
        if (schema.has(Annotations.FOREIGN_KEYS)) {
            each(schema, Annotations.FOREIGN_KEYS, CsvwSchemaReader::foreignKey).forEach(table::foreignKey);
        } else {
            each(schema, "foreignKeys", Function.identity()).stream()
                    .flatMap(key -> reference(key, safeNames, realNames).stream())
                    .forEach(table::foreignKey);
        }
        each(schema, Annotations.CHECKS, CsvwSchemaReader::check).forEach(table::check);
        each(schema, Annotations.INDEXES, CsvwSchemaReader::index).forEach(table::index);
        return table.comment(schema.path(Annotations.COMMENT).asText(""))
                .system(schema.path(Annotations.SYSTEM).asText(""))
                .build();
    }

    /**
     * What a file may have as the heading of each column, in their order: its titles in any language, and its name. The
     * first is the column's name here.
     */
    public static List<List<String>> headings(JsonNode schema) {
        List<List<String>> all = new ArrayList<>();
        for (JsonNode node : schema.path("columns")) {
            if (!node.path("virtual").asBoolean(false)) {
                all.add(columnHeadings(node));
            }
        }
        return all;
    }

    private static List<String> columnHeadings(JsonNode node) {
        List<String> headings = new ArrayList<>();
        JsonNode titles = node.path("titles");
        (titles.isObject() ? titles : List.of(titles)).forEach(t -> headings.addAll(texts(t)));
        headings.add(CsvwNames.path(node.path("name").asText("")));
        return headings;
    }

    /** A reference in CSVW's own words to a table that is described in the same place. */
    private Optional<ForeignKey> reference(JsonNode key, List<String> safeNames, List<String> realNames) {
        JsonNode reference = key.path("reference");
        return targets.apply(reference).map(target -> {
            List<String> theirSafe = new ArrayList<>();
            List<String> theirReal = new ArrayList<>();
            for (JsonNode column : target.schema().path("columns")) {
                theirSafe.add(column.path("name").asText(""));
                theirReal.add(columnHeadings(column).get(0));
            }
            String what = "a reference to " + target.name();
            return new ForeignKey(
                    "",
                    named(key.path("columnReference"), safeNames, realNames, what),
                    new TableName(
                            target.schema().path(Annotations.SCHEMA).asText(""),
                            target.schema().path(Annotations.TABLE).asText(target.name())),
                    named(reference.path("columnReference"), theirSafe, theirReal, what),
                    ReferentialAction.ofSql("NO ACTION"),
                    ReferentialAction.ofSql("NO ACTION"),
                    Deferrability.NOT_DEFERRABLE);
        });
    }

    /** The columns that CSVW knows by these safe names. */
    private List<String> named(JsonNode names, List<String> safeNames, List<String> realNames, String what) {
        List<String> columns = new ArrayList<>();
        for (String safe : texts(names)) {
            int at = safeNames.indexOf(safe);
            if (at < 0) {
                throw new BrokenSetException(set, what + " names no column: " + safe);
            }
            columns.add(realNames.get(at));
        }
        return columns;
    }

    private ColumnDefinition column(JsonNode node) {
        String name = columnHeadings(node).get(0);
        LogicalType type = node.has(Annotations.TYPE)
                ? LogicalType.parse(node.get(Annotations.TYPE).asText())
                : list(node, CsvwDatatype.read(node.path("datatype"), set));
        Optional<ColumnDefault> defaultValue = Optional.empty();
        if (node.has(Annotations.DEFAULT_VALUE)) {
            defaultValue = Optional.of(new ColumnDefault.Literal(
                    node.get(Annotations.DEFAULT_VALUE).asText()));
        } else if (node.has(Annotations.DEFAULT_EXPRESSION)) {
            defaultValue = Optional.of(new ColumnDefault.Expression(text(node.get(Annotations.DEFAULT_EXPRESSION))));
        }
        return ColumnDefinition.named(name, type)
                .nullable(!node.path("required").asBoolean(false))
                .defaultValue(defaultValue)
                .identity(Optional.ofNullable(node.get(Annotations.IDENTITY)).map(CsvwSchemaReader::identity))
                .generation(Optional.ofNullable(node.get(Annotations.GENERATED_AS))
                        .map(rule -> new GenerationRule(
                                text(rule), rule.path(Annotations.STORED).asBoolean())))
                .enumeration(Optional.ofNullable(node.get(Annotations.ENUMERATION))
                        .map(inner -> new Enumeration(name(inner), texts(inner.path(Annotations.VALUES)))))
                .collation(node.path(Annotations.COLLATION).asText(""))
                .sourceType(node.path(Annotations.SOURCE_TYPE).asText(""))
                .comment(node.path(Annotations.COMMENT).asText(""))
                .build();
    }

    /** A cell with a separator holds several values. */
    private static LogicalType list(JsonNode node, LogicalType type) {
        return node.hasNonNull("separator") ? LogicalType.arrayOf(type) : type;
    }

    private static SqlText text(JsonNode node) {
        return new SqlText(
                node.path(Annotations.EXPRESSION).asText(),
                node.path(Annotations.SYSTEM).asText());
    }

    private static Optional<SqlText> text(JsonNode node, String key) {
        return Optional.ofNullable(node.get(key)).map(CsvwSchemaReader::text);
    }

    private static Identity identity(JsonNode node) {
        return new Identity(
                node.path(Annotations.ALWAYS).asBoolean(),
                node.path(Annotations.START).asLong(1),
                node.path(Annotations.INCREMENT).asLong(1),
                node.path(Annotations.NEXT).asLong(1));
    }

    private static <T> List<T> each(JsonNode schema, String key, Function<JsonNode, T> reader) {
        List<T> items = new ArrayList<>();
        schema.path(key).forEach(node -> items.add(reader.apply(node)));
        return items;
    }

    private static List<String> texts(JsonNode node) {
        if (node.isTextual()) {
            return List.of(node.asText());
        }
        List<String> texts = new ArrayList<>();
        node.forEach(item -> texts.add(item.asText()));
        return texts;
    }

    private static String name(JsonNode node) {
        return node.path(Annotations.NAME).asText("");
    }

    private static Key key(JsonNode node) {
        return new Key(name(node), texts(node.path(Annotations.COLUMNS)));
    }

    private static ForeignKey foreignKey(JsonNode node) {
        return new ForeignKey(
                name(node),
                texts(node.path(Annotations.COLUMNS)),
                new TableName(
                        node.path(Annotations.TARGET_SCHEMA).asText(""),
                        node.path(Annotations.TARGET_TABLE).asText("")),
                texts(node.path(Annotations.TARGET_COLUMNS)),
                ReferentialAction.ofSql(node.path(Annotations.ON_UPDATE).asText("NO ACTION")),
                ReferentialAction.ofSql(node.path(Annotations.ON_DELETE).asText("NO ACTION")),
                Deferrability.valueOf(node.path(Annotations.DEFERRABILITY).asText("NOT_DEFERRABLE")));
    }

    private static CheckConstraint check(JsonNode node) {
        return new CheckConstraint(name(node), text(node));
    }

    private static IndexDefinition index(JsonNode node) {
        List<IndexDefinition.Part> parts = new ArrayList<>();
        for (JsonNode part : node.path(Annotations.COLUMNS)) {
            parts.add(new IndexDefinition.Part(
                    name(part),
                    part.has(Annotations.EXPRESSION) ? Optional.of(text(part)) : Optional.empty(),
                    part.path(Annotations.DESCENDING).asBoolean(),
                    part.path(Annotations.PREFIX).asInt(0)));
        }
        return new IndexDefinition(
                name(node),
                node.path(Annotations.UNIQUE).asBoolean(),
                parts,
                text(node, Annotations.PREDICATE),
                text(node, Annotations.OWN));
    }
}
