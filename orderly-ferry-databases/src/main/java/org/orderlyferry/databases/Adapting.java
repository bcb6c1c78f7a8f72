package org.orderlyferry.databases;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.orderlyferry.databases.sql.PortableExpression;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;

/**
 * Brings a definition to what a system can hold. What is common to all systems is here: expressions of another system
 * are carried where they mean the same, and left behind by name where they may not. One instance serves one load.
 */
public abstract class Adapting implements PortableExpression.Target {

    private final Dialect dialect;
    private final LoadNotes notes;

    protected Adapting(Dialect dialect, LoadNotes notes) {
        this.dialect = dialect;
        this.notes = notes;
    }

    protected final LoadNotes notes() {
        return notes;
    }

    /** A column as the system holds it; what is special about its type or identity is noted. */
    protected abstract ColumnDefinition column(TableDefinition table, ColumnDefinition column);

    /** An expression that every system takes, as this one does it; nothing where it has another meaning here. */
    protected abstract Optional<ColumnDefault> expression(ColumnDefault.Expression expression);

    /** Whether a column is part of a key, a reference or an index. */
    protected static boolean isIndexed(TableDefinition table, String column) {
        return table.primaryKey().filter(k -> k.columns().contains(column)).isPresent()
                || table.uniqueKeys().stream().anyMatch(k -> k.columns().contains(column))
                || table.foreignKeys().stream().anyMatch(k -> k.columns().contains(column))
                || table.indexes().stream().anyMatch(i -> i.parts().stream()
                        .anyMatch(p -> p.column().equals(column)));
    }

    /** Adapts a whole table. */
    public TableDefinition adapt(TableDefinition table) {
        List<ColumnDefinition> columns = new ArrayList<>();
        for (ColumnDefinition column : table.columns()) {
            columns.add(column(table, withoutForeignExpressions(table, column)));
        }
        List<CheckConstraint> checks = new ArrayList<>();
        for (CheckConstraint check : table.checks()) {
            check(table, check).ifPresent(checks::add);
        }
        return new TableDefinition(
                table.name(),
                columns,
                table.primaryKey(),
                table.uniqueKeys(),
                table.foreignKeys(),
                checks,
                table.indexes(),
                table.comment());
    }

    private Optional<CheckConstraint> check(TableDefinition table, CheckConstraint check) {
        if (check.system().equals(dialect.system())) {
            return Optional.of(check);
        }
        boolean foldsUp = check.system().equals("H2");
        Optional<String> carried = PortableExpression.carry(
                check.expression(), table.columnNames(), name -> foldsUp ? name.toUpperCase(Locale.ROOT) : name, this);
        if (carried.isEmpty()) {
            notes.leftBehind(
                    "check",
                    table.name() + (check.name().isEmpty() ? "" : "." + check.name()),
                    "its expression is " + check.system() + "'s own: " + check.expression());
        }
        return carried.map(sql -> new CheckConstraint(check.name(), sql, dialect.system()));
    }

    private ColumnDefinition withoutForeignExpressions(TableDefinition table, ColumnDefinition column) {
        Optional<ColumnDefault> value = column.defaultValue();
        if (value.isPresent() && value.get() instanceof ColumnDefault.Expression expression) {
            boolean own = expression.system().equals(dialect.system());
            boolean iso = expression.system().equals(ColumnDefault.Expression.ISO);
            value = own ? value : iso ? expression(expression) : Optional.empty();
            if (value.isEmpty()) {
                notes.leftBehind(
                        "default",
                        table.name() + "." + column.name(),
                        "the expression means something else here, or nothing: " + expression.sql());
            }
        }
        if (column.generatedAs().isPresent()) {
            notes.leftBehind(
                    "generation rule",
                    table.name() + "." + column.name(),
                    "the column arrives with its values, but without its rule: "
                            + column.generatedAs().get());
        }
        return new ColumnDefinition(
                column.name(),
                column.type(),
                column.nullable(),
                value,
                column.identity(),
                Optional.empty(),
                column.sourceType(),
                column.comment());
    }

    @Override
    public final String quote(String name) {
        return dialect.quote(name);
    }

    @Override
    public String lengthFunction() {
        return "CHAR_LENGTH";
    }

    @Override
    public String typedLiteral(String type, String quoted) {
        return type + " " + quoted;
    }
}
