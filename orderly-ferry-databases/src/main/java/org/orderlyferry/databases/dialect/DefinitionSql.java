package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.apiguardian.api.API;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** The parts of CREATE TABLE, CREATE INDEX and ALTER TABLE that all systems write as ISO/IEC 9075-2 does. */
@API(status = API.Status.INTERNAL)
public final class DefinitionSql {

    private static final Pattern NAME = Pattern.compile("[A-Za-z_]+(\\([0-9]*\\))?");

    private final SystemSql dialect;

    public DefinitionSql(SystemSql dialect) {
        this.dialect = dialect;
    }

    /** Names in quotes, with commas. */
    public String names(List<String> columns) {
        return columns.stream().map(dialect::quote).collect(Collectors.joining(", "));
    }

    private String constraint(String name) {
        return name.isEmpty() ? "" : "CONSTRAINT " + dialect.quote(name) + " ";
    }

    public String primaryKey(Key key) {
        return constraint(key.name()) + "PRIMARY KEY (" + names(key.columns()) + ")";
    }

    public String unique(Key key) {
        return constraint(key.name()) + "UNIQUE (" + names(key.columns()) + ")";
    }

    public String check(CheckConstraint check) {
        return constraint(check.name()) + "CHECK (" + check.expression() + ")";
    }

    public String foreignKey(ForeignKey key) {
        return constraint(key.name()) + "FOREIGN KEY (" + names(key.columns()) + ") REFERENCES "
                + dialect.quote(key.target()) + " (" + names(key.targetColumns()) + ")"
                + action(" ON UPDATE ", key.onUpdate()) + action(" ON DELETE ", key.onDelete())
                + (key.deferrability().sql().isEmpty()
                        ? ""
                        : " " + key.deferrability().sql());
    }

    private static String action(String words, ReferentialAction action) {
        return action == ReferentialAction.NO_ACTION ? "" : words + action.sql();
    }

    public String index(TableName table, IndexDefinition index) {
        String head = "CREATE " + (index.unique() ? "UNIQUE " : "") + "INDEX " + dialect.quote(index.name()) + " ON "
                + dialect.quote(table) + " ";
        if (index.own().isPresent()) {
            return head + index.own().get().sql();
        }
        String parts = index.parts().stream().map(this::part).collect(Collectors.joining(", "));
        return head + "(" + parts + ")"
                + index.predicate().map(p -> " WHERE " + p.sql()).orElse("");
    }

    /** An index inside of CREATE TABLE, where a system has that. */
    public String indexPart(IndexDefinition index) {
        return (index.unique() ? "UNIQUE " : "") + "INDEX " + dialect.quote(index.name()) + " ("
                + index.parts().stream().map(this::part).collect(Collectors.joining(", ")) + ")";
    }

    private String part(IndexDefinition.Part part) {
        String what = part.expression()
                .map(e -> "(" + e.sql() + ")")
                .orElseGet(() -> dialect.quote(part.column()) + (part.prefix() > 0 ? "(" + part.prefix() + ")" : ""));
        return what + (part.descending() ? " DESC" : "");
    }

    /** {@code GENERATED … AS IDENTITY}, with a blank in front. */
    public String identity(Identity identity) {
        return " GENERATED " + (identity.always() ? "ALWAYS" : "BY DEFAULT") + " AS IDENTITY (START WITH "
                + identity.start() + " INCREMENT BY " + identity.increment() + bound(identity) + ")";
    }

    /** One that counts up begins at 1 or later, and one that counts down below 0, unless it is told otherwise. */
    private static String bound(Identity identity) {
        if (identity.increment() > 0 && identity.start() < 1) {
            return " MINVALUE " + identity.start();
        }
        return identity.increment() < 0 && identity.start() > -1 ? " MAXVALUE " + identity.start() : "";
    }

    /** What an INSERT needs between columns and VALUES to give a GENERATED ALWAYS column a value of its own. */
    public String overriding(TableDefinition table) {
        boolean always = table.columns().stream()
                .anyMatch(c -> c.identity().isPresent() && c.identity().get().always());
        return always ? " OVERRIDING SYSTEM VALUE" : "";
    }

    /** COMMENT ON for a table and its columns. */
    public List<String> comments(TableDefinition table) {
        List<String> statements = new ArrayList<>();
        if (!table.comment().isEmpty()) {
            statements.add("COMMENT ON TABLE " + dialect.quote(table.name()) + " IS " + string(table.comment()));
        }
        for (ColumnDefinition column : table.columns()) {
            if (!column.comment().isEmpty()) {
                statements.add("COMMENT ON COLUMN " + dialect.quote(table.name()) + "." + dialect.quote(column.name())
                        + " IS " + string(column.comment()));
            }
        }
        return statements;
    }

    /** ALTER TABLE for unique keys and checks, and CREATE INDEX. */
    public List<String> keysAndIndexes(TableDefinition table) {
        List<String> statements = new ArrayList<>();
        table.uniqueKeys().forEach(key -> statements.add(add(table, unique(key))));
        table.checks().forEach(check -> statements.add(add(table, check(check))));
        table.indexes().forEach(index -> statements.add(index(table.name(), index)));
        return statements;
    }

    /** ALTER TABLE for references. */
    public List<String> references(TableDefinition table) {
        return table.foreignKeys().stream()
                .map(key -> add(table, foreignKey(key)))
                .toList();
    }

    /** ALTER TABLE that adds a constraint. */
    public String add(TableDefinition table, String constraint) {
        return "ALTER TABLE " + dialect.quote(table.name()) + " ADD " + constraint;
    }

    /** An expression as a column's default: in brackets where it is more than a name, since systems don't take all of them without. */
    public static String defaultValue(ColumnDefault.Expression expression) {
        return NAME.matcher(expression.sql()).matches() ? expression.sql() : "(" + expression.sql() + ")";
    }

    /** A text as a literal. */
    public static String string(String text) {
        return "'" + text.replace("'", "''") + "'";
    }
}
