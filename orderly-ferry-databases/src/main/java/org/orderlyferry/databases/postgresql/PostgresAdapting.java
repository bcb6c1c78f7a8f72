package org.orderlyferry.databases.postgresql;

import java.util.Optional;
import org.orderlyferry.databases.Adapting;
import org.orderlyferry.databases.LoadNotes;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;

/** Brings a definition to what PostgreSQL can hold. */
final class PostgresAdapting extends Adapting {

    PostgresAdapting(PostgresDialect dialect, LoadNotes notes) {
        super(dialect, notes);
    }

    @Override
    protected ColumnDefinition column(TableDefinition table, ColumnDefinition column) {
        if (column.type().name().isBinary() && column.type().isSized()) {
            notes().finding(table.name(), column.name(), "BYTEA has no length; " + column.type() + " loses its own");
        }
        if (column.type().name().isTimed() && column.type().size() > PostgresTypes.FRACTION) {
            notes().finding(
                            table.name(),
                            column.name(),
                            "PostgreSQL keeps " + PostgresTypes.FRACTION + " digits of a second's fraction; "
                                    + column.type() + " has more, and a value that uses them is refused");
        }
        return column;
    }

    @Override
    protected Optional<ColumnDefault> expression(ColumnDefault.Expression expression) {
        return Optional.of(expression);
    }
}
