package org.orderlyferry.databases;

import java.util.List;
import java.util.stream.Collectors;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableName;

/** The parts of CREATE TABLE, CREATE INDEX and ALTER TABLE that all systems write as ISO/IEC 9075-2 does. */
public final class DefinitionSql {

    private final Dialect dialect;

    public DefinitionSql(Dialect dialect) {
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
                + action(" ON UPDATE ", key.onUpdate()) + action(" ON DELETE ", key.onDelete());
    }

    private static String action(String words, ReferentialAction action) {
        return action == ReferentialAction.NO_ACTION ? "" : words + action.sql();
    }

    public String index(TableName table, IndexDefinition index) {
        String parts = index.parts().stream()
                .map(p -> dialect.quote(p.column()) + (p.descending() ? " DESC" : ""))
                .collect(Collectors.joining(", "));
        return "CREATE " + (index.unique() ? "UNIQUE " : "") + "INDEX " + dialect.quote(index.name()) + " ON "
                + dialect.quote(table) + " (" + parts + ")";
    }
}
