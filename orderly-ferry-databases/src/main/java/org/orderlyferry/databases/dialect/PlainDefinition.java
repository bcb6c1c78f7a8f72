package org.orderlyferry.databases.dialect;

import java.math.BigDecimal;
import java.util.Optional;
import java.util.function.Function;
import org.apiguardian.api.API;
import org.orderlyferry.databases.sql.Expression;
import org.orderlyferry.databases.sql.ExpressionParser;
import org.orderlyferry.databases.sql.ExpressionWriter;
import org.orderlyferry.databases.sql.IndexTail;
import org.orderlyferry.databases.sql.Portable;
import org.orderlyferry.databases.sql.ServersForm;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;

/**
 * Brings a system's own expressions into a plain form. A server writes them down in its own way, with casts and brackets that
 * nobody gave it; they are read, brought to what means the same in every system so far as there is such a thing, and written
 * anew, so that those that were sent and those of the server read the same where they are.
 */
@API(status = API.Status.INTERNAL)
public final class PlainDefinition {

    private static final int MOST_DIGITS = 1_000;

    private final Adapting adapting;
    private final String system;

    /** Of a system's definitions. */
    public PlainDefinition(Dialect dialect) {
        this.adapting = dialect.writing().adapting(new LoadNotes());
        this.system = dialect.system();
    }

    /** A table's definition with all its expressions in their plain form. */
    public TableDefinition of(TableDefinition table) {
        return table.toBuilder()
                .columns(table.columns().stream().map(c -> plain(table, c)).toList())
                .checks(table.checks().stream()
                        .map(c -> new CheckConstraint(c.name(), plain(table, c.condition())))
                        .toList())
                .indexes(table.indexes().stream().map(i -> plain(table, i)).toList())
                .build();
    }

    private ColumnDefinition plain(TableDefinition table, ColumnDefinition column) {
        return column.toBuilder()
                .defaultValue(column.defaultValue()
                        .map(d -> d instanceof ColumnDefault.Expression e
                                ? new ColumnDefault.Expression(plain(table, e.text()))
                                : d))
                .generation(column.generation().map(g -> new GenerationRule(plain(table, g.expression()), g.stored())))
                .build();
    }

    private IndexDefinition plain(TableDefinition table, IndexDefinition index) {
        return new IndexDefinition(
                index.name(),
                index.unique(),
                index.parts().stream()
                        .map(p -> new IndexDefinition.Part(
                                p.column(), p.expression().map(e -> plain(table, e)), p.descending(), p.prefix()))
                        .toList(),
                index.predicate().map(p -> plain(table, p)),
                index.own().map(o -> tail(table, o)));
    }

    private SqlText tail(TableDefinition table, SqlText own) {
        return IndexTail.rewrite(
                        own, table, adapting, column -> found(table, column).map(ColumnDefinition::name))
                .map(sql -> new SqlText(sql, system))
                .orElse(own);
    }

    private static Optional<ColumnDefinition> found(TableDefinition table, Expression.Column column) {
        return table.column(column.name()).or(() -> table.columns().stream()
                .filter(c -> !column.quoted() && c.name().equalsIgnoreCase(column.name()))
                .findFirst());
    }

    /** As it stands where it can't be read. */
    private SqlText plain(TableDefinition table, SqlText text) {
        Function<Expression.Column, Optional<ColumnDefinition>> found = column -> found(table, column);
        Portable portable = new Portable(c -> found.apply(c).map(ColumnDefinition::type), text.system(), text.system());
        ExpressionWriter writer =
                new ExpressionWriter(adapting, c -> found.apply(c).map(ColumnDefinition::name));
        ServersForm form = new ServersForm(c -> found.apply(c).map(ColumnDefinition::type));
        return ExpressionParser.parse(text, table)
                .map(PlainDefinition::reckoned)
                .flatMap(read ->
                        portable.of(read).map(form::of).flatMap(writer::write).or(() -> writer.write(form.of(read))))
                .map(sql -> new SqlText(sql, system))
                .orElse(text);
    }

    /** A server may reckon out what is constant when it takes an expression; here so far as that is all of it. */
    private static Expression reckoned(Expression read) {
        if (read instanceof Expression.Joined joined
                && joined.left() instanceof Expression.Number left
                && joined.right() instanceof Expression.Number right) {
            BigDecimal one = new BigDecimal(left.digits());
            BigDecimal other = new BigDecimal(right.digits());
            // a power of ten is a few characters, and its digits fill the memory
            if (Math.abs((long) one.scale()) > MOST_DIGITS || Math.abs((long) other.scale()) > MOST_DIGITS) {
                return read;
            }
            return switch (joined.operator()) {
                case "+" -> new Expression.Number(one.add(other).toPlainString());
                case "*" -> new Expression.Number(one.multiply(other).toPlainString());
                default -> read;
            };
        }
        return read;
    }
}
