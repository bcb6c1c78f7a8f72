package org.orderlyferry.databases.naming;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** The names under which a system holds the tables of another one, with all that is named in them. */
public final class NameMapping {

    private final NamingRules rules;
    private final Map<TableName, TableName> tables = new LinkedHashMap<>();
    private final Map<TableName, Map<String, String>> columns = new LinkedHashMap<>();
    /** Tables that the database has, or will have, by another case of the same letters. */
    private final Set<TableName> found = new HashSet<>();

    private final List<Finding> findings = new ArrayList<>();
    private final Names indexNames;
    private final Names constraintNames;

    /**
     * Maps the names of tables.
     *
     * @param takenIndexNames names of indexes and keys that other tables of the target have
     */
    public NameMapping(NamingRules rules, Collection<TableDefinition> sources, Collection<String> takenIndexNames) {
        this.rules = rules;
        this.indexNames = new Names(rules);
        this.constraintNames = new Names(rules);
        takenIndexNames.forEach(indexNames::take);
        takenIndexNames.forEach(constraintNames::take);
        Map<String, Names> bySchema = new LinkedHashMap<>();
        // in the systems where indexes' names are the schema's, tables' names are among them
        sources.forEach(s -> indexNames.take(s.name().name()));
        for (TableDefinition source : sources) {
            tables.put(source.name(), tableName(source.name(), sources, bySchema));
            Names names = new Names(rules);
            rules.ownColumns().forEach(names::take);
            Map<String, String> mapped = new LinkedHashMap<>();
            source.columnNames().forEach(c -> mapped.put(c, names.give(c)));
            columns.put(source.name(), mapped);
        }
    }

    /**
     * Gives the tables the very names that the database has them by.
     *
     * @param byName what a database's catalogue calls a table
     */
    public NameMapping held(UnaryOperator<TableName> byName) {
        tables.replaceAll((source, name) -> {
            TableName held = byName.apply(name);
            if (!held.equals(name)) {
                found.add(source);
            }
            return held;
        });
        return this;
    }

    private TableName tableName(TableName source, Collection<TableDefinition> all, Map<String, Names> bySchema) {
        String schema = rules.schemas() ? source.schema() : "";
        String wanted = source.name();
        if (!rules.schemas() && !source.schema().isEmpty()) {
            boolean alone = all.stream()
                            .filter(t -> t.name().name().equalsIgnoreCase(source.name()))
                            .count()
                    == 1;
            wanted = alone ? source.name() : source.schema() + "_" + source.name();
        }
        String name = bySchema.computeIfAbsent(schema, s -> new Names(rules)).give(wanted);
        return new TableName(schema, name);
    }

    /** A table under the names of the system; what had to be named otherwise is noted. */
    public TableDefinition map(TableDefinition source) {
        TableName name = tables.get(source.name());
        if (!name.equals(source.name())) {
            findings.add(Finding.of(
                    FindingCode.NAME_CHANGED,
                    source.name(),
                    becomes(source.name(), name) + ": " + tableReason(source.name())));
        }
        Map<String, String> own = columns.get(source.name());
        own.forEach((from, to) -> {
            if (!from.equals(to)) {
                findings.add(new Finding(
                        FindingCode.NAME_CHANGED,
                        source.name(),
                        from,
                        "the column becomes " + to + ": "
                                + (isOwnColumn(from) ? "the system has columns of this name itself" : reason(from))));
            }
        });
        return source.toBuilder()
                .name(name)
                .columns(source.columns().stream()
                        .map(c -> c.withName(own.get(c.name())))
                        .toList())
                .primaryKey(source.primaryKey().map(k -> key(source, k)).orElse(null))
                .uniqueKeys(
                        source.uniqueKeys().stream().map(k -> key(source, k)).toList())
                .foreignKeys(source.foreignKeys().stream()
                        .map(k -> foreignKey(source, k))
                        .toList())
                .checks(source.checks().stream().map(c -> check(source, c)).toList())
                .indexes(source.indexes().stream().map(i -> index(source, i)).toList())
                .build();
    }

    /** Where nothing but the schema goes, the same is said of all tables, so that it can be said once. */
    private static String becomes(TableName source, TableName name) {
        return name.equals(TableName.of(source.name())) ? "is named without its schema" : "the table becomes " + name;
    }

    private String tableReason(TableName source) {
        if (found.contains(source)) {
            return source.schema().equals(tables.get(source).schema())
                    ? "case doesn't tell the names of tables apart here"
                    : "its schema is the one that the session is in";
        }
        return !rules.schemas() && !source.schema().isEmpty() ? "there are no schemas here" : reason(source.name());
    }

    private boolean isOwnColumn(String name) {
        return rules.ownColumns().stream()
                .anyMatch(n -> rules.caseMatters() ? n.equals(name) : n.equalsIgnoreCase(name));
    }

    private String reason(String name) {
        if (!rules.allows(name)) {
            return "a character can't stand in a name here";
        }
        if (rules.endsWrong(name)) {
            return "a name can't end in a blank here";
        }
        Names fresh = new Names(rules);
        return fresh.give(name).equals(name)
                ? "the name is taken, and case doesn't tell names apart here"
                : "a name has at most " + rules.longest() + " "
                        + rules.unit().name().toLowerCase(Locale.ROOT) + " here";
    }

    private List<String> columns(TableName table, List<String> names) {
        Map<String, String> own = columns.get(table);
        return own == null
                ? names
                : names.stream().map(n -> own.getOrDefault(n, n)).toList();
    }

    private Key key(TableDefinition table, Key key) {
        return new Key(
                name(table, "key", key.name(), rules.indexes(), indexNames), columns(table.name(), key.columns()));
    }

    private CheckConstraint check(TableDefinition table, CheckConstraint check) {
        return new CheckConstraint(
                name(table, "check", check.name(), rules.checks(), constraintNames), check.condition());
    }

    private ForeignKey foreignKey(TableDefinition table, ForeignKey key) {
        return key.withName(name(table, "reference", key.name(), rules.references(), constraintNames))
                .withColumns(columns(table.name(), key.columns()), columns(key.target(), key.targetColumns()))
                .withTarget(tables.getOrDefault(key.target(), key.target()));
    }

    private String name(TableDefinition table, String kind, String name, NamingRules.Scope scope, Names schemas) {
        if (name.isEmpty()) {
            return name;
        }
        String given = (scope == NamingRules.Scope.SCHEMA ? schemas : new Names(rules)).give(name);
        if (!given.equals(name)) {
            findings.add(Finding.of(
                    FindingCode.NAME_CHANGED, table.name(), "the " + kind + " " + name + " becomes " + given));
        }
        return given;
    }

    private IndexDefinition index(TableDefinition table, IndexDefinition index) {
        List<IndexDefinition.Part> parts = new ArrayList<>();
        for (IndexDefinition.Part part : index.parts()) {
            String column = part.column().isEmpty()
                    ? ""
                    : columns(table.name(), List.of(part.column())).get(0);
            parts.add(new IndexDefinition.Part(column, part.expression(), part.descending(), part.prefix()));
        }
        return new IndexDefinition(
                index.name().isEmpty()
                        ? unnamed(table, parts)
                        : name(table, "index", index.name(), rules.indexes(), indexNames),
                index.unique(),
                parts,
                index.predicate(),
                index.own());
    }

    /** A name for an index that has none, which no system takes: the table's and those of its columns. */
    private String unnamed(TableDefinition table, List<IndexDefinition.Part> parts) {
        String columns = parts.stream()
                .map(p -> p.column().isEmpty() ? "expression" : p.column())
                .collect(Collectors.joining("_"));
        String wanted = tables.get(table.name()).name() + "_" + columns;
        String given = (rules.indexes() == NamingRules.Scope.SCHEMA ? indexNames : new Names(rules)).give(wanted);
        findings.add(Finding.of(
                FindingCode.NAME_CHANGED,
                table.name(),
                "the index on " + columns + " has no name, and becomes " + given));
        return given;
    }

    /** Where a table of the source stands here; empty for one that isn't mapped. */
    public Optional<TableName> of(TableName source) {
        return Optional.ofNullable(tables.get(source));
    }

    /** The new names of a source table's columns, by the old ones. */
    public Map<String, String> columns(TableName source) {
        return columns.get(source);
    }

    /** What is named otherwise; complete when all tables have been mapped. */
    public List<Finding> findings() {
        return List.copyOf(findings);
    }
}
