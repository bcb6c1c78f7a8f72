package org.orderlyferry.databases.sqlite;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/** Brings a definition to what SQLite can hold. */
final class SqliteAdapting extends Adapting {

    /** The functions that SQLite has under the same names with the same meaning. */
    private static final Set<String> SAME = Set.of("CURRENT_DATE", "CURRENT_TIME", "CURRENT_TIMESTAMP");

    SqliteAdapting(SqliteDialect dialect, LoadNotes notes) {
        super(dialect, notes);
    }

    @Override
    public TableDefinition adapt(TableDefinition table, Map<String, String> columnNames) {
        return super.adapt(withoutComments(table, "SQLite has none"), columnNames);
    }

    @Override
    protected ColumnDefinition column(TableDefinition table, ColumnDefinition column) {
        if (isText(column.type()) && !column.sourceType().startsWith("DECIMAL_TEXT")) {
            notes().finding(
                            FindingCode.TYPE_CHANGED,
                            table.name(),
                            column.name(),
                            "its numbers (" + column.type()
                                    + ") become text, since SQLite would keep 15 digits of them:"
                                    + " its own SQL orders them as text, and reckons with them in doubles");
        }
        if (column.identity().isEmpty()) {
            return column;
        }
        boolean isKey = table.primaryKey().isPresent()
                && table.primaryKey().get().columns().equals(List.of(column.name()));
        if (!isKey) {
            notes().leftBehind(
                            "identity",
                            table.name() + "." + column.name(),
                            "SQLite counts only in a single-column primary key");
            return column.toBuilder().identity(Optional.empty()).build();
        }
        var identity = column.identity().get();
        if (identity.always() || identity.increment() != 1) {
            notes().finding(
                            FindingCode.COUNTER_CHANGED,
                            table.name(),
                            column.name(),
                            "SQLite's counter goes up by 1 and lets an insert give a value of its own; at the source it is"
                                    + " GENERATED " + (identity.always() ? "ALWAYS" : "BY DEFAULT") + ", increment "
                                    + identity.increment());
        }
        if (column.type().name() != TypeName.BIGINT) {
            notes().finding(
                            FindingCode.COUNTER_CHANGED,
                            table.name(),
                            column.name(),
                            "a counter is a 64-bit INTEGER in SQLite; at the source it is " + column.type());
        }
        return column.toBuilder()
                .identity(Optional.of(new Identity(false, 1, 1, identity.next())))
                .build()
                .withType(LogicalType.BIGINT);
    }

    @Override
    protected Optional<ColumnDefault> expression(SqlText expression) {
        return SAME.contains(expression.sql())
                ? Optional.of(new ColumnDefault.Expression(expression))
                : Optional.empty();
    }

    @Override
    protected boolean canKeysBeNull() {
        return true;
    }

    @Override
    protected boolean canIndex(IndexDefinition index) {
        return true;
    }

    @Override
    protected boolean canComputeKeys() {
        return false;
    }

    /** Numbers of many digits stand there as texts, which SQLite compares as texts. */
    @Override
    protected boolean canCompute(ColumnDefinition column) {
        return !column.sourceType().startsWith("DECIMAL_TEXT") && !isText(column.type());
    }

    private static boolean isText(LogicalType number) {
        return SqliteTypes.sql(number).startsWith("DECIMAL_TEXT");
    }

    @Override
    protected boolean canDefer() {
        return true;
    }

    @Override
    public String lengthFunction() {
        return "LENGTH";
    }

    /** Dates are texts in SQLite, and the proper form orders as dates do. */
    @Override
    public String typedLiteral(String type, String quoted) {
        return quoted;
    }
}
