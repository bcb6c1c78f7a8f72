package org.orderlyferry.databases.postgresql;

import java.util.Optional;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/** Brings a definition to what PostgreSQL can hold. */
final class PostgresAdapting extends Adapting {

    /** Of a key or an index. */
    private static final int MOST_COLUMNS = 32;

    private final PostgresDialect dialect;

    PostgresAdapting(PostgresDialect dialect, LoadNotes notes) {
        super(dialect, notes);
        this.dialect = dialect;
    }

    @Override
    protected boolean storesComputed() {
        return true;
    }

    @Override
    protected ColumnDefinition column(TableDefinition table, ColumnDefinition column) {
        if (column.type().name().isBinary() && column.type().isSized()) {
            notes().finding(
                            FindingCode.TYPE_CHANGED,
                            table.name(),
                            column.name(),
                            "BYTEA has no length; " + column.type() + " loses its own");
        }
        if (column.type().name().isTimed() && column.type().size() > PostgresTypes.FRACTION) {
            notes().finding(
                            FindingCode.VALUE_BY_VALUE,
                            table.name(),
                            column.name(),
                            "PostgreSQL keeps " + PostgresTypes.FRACTION + " digits of a second's fraction; "
                                    + column.type() + " has more, and a value that uses them is refused");
        }
        if (column.identity().isPresent() && column.type().name() == TypeName.DECIMAL) {
            notes().finding(
                            FindingCode.COUNTER_CHANGED,
                            table.name(),
                            column.name(),
                            "a counter has at most 64 bits in PostgreSQL, so " + column.type()
                                    + " becomes BIGINT, and a greater value is refused");
            return column.withType(LogicalType.BIGINT);
        }
        return column;
    }

    /** Enumerations are types with names, so only those of another PostgreSQL are made again. */
    @Override
    protected Optional<String> enumerationType(TableDefinition table, Enumeration enumeration) {
        return isOwn(table) && !enumeration.name().isEmpty()
                ? Optional.of(dialect.quote(enumeration.name()))
                : Optional.empty();
    }

    @Override
    protected String ownType(TableDefinition table, ColumnDefinition column) {
        return column.enumeration()
                .flatMap(e -> enumerationType(table, e))
                .orElseGet(() -> super.ownType(table, column));
    }

    @Override
    protected Optional<ColumnDefault> expression(SqlText expression) {
        return Optional.of(new ColumnDefault.Expression(expression));
    }

    @Override
    protected int mostIndexedColumns() {
        return MOST_COLUMNS;
    }

    @Override
    protected boolean isNeverIndexed(ColumnDefinition held) {
        return held.type().name() == TypeName.XML || held.type().name() == TypeName.JSON;
    }

    @Override
    protected boolean canIndex(IndexDefinition index) {
        return true;
    }

    @Override
    protected boolean canDefer() {
        return true;
    }
}
