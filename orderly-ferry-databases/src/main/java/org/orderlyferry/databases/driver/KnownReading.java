package org.orderlyferry.databases.driver;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.OptionalLong;
import org.orderlyferry.databases.dialect.ConnectedSql;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableName;

/** How records are read by the driver of a system whose SQL is known. */
final class KnownReading extends DriverReading {

    private final ConnectedSql known;

    KnownReading(DriverDialect dialect, ConnectedSql known) {
        super(dialect);
        this.known = known;
    }

    @Override
    int momentLevel(Connection connection) throws SQLException {
        return known.momentLevel(connection);
    }

    @Override
    String momentAdvice() {
        return known.momentAdvice();
    }

    @Override
    public String selected(ColumnDefinition column) {
        return known.selected(column).orElseGet(() -> super.selected(column));
    }

    @Override
    public OptionalLong estimate(Session session, TableName table) throws SQLException {
        return known.estimate(session, table, dialect.traits().schema());
    }

    @Override
    public String counting() {
        return known.counting();
    }

    /**
     * By one connection, so that what was read before a kill needn't be read again. Texts are left out: what is written as a
     * constant may be compared by other rules than the column's values are sorted by.
     */
    @Override
    public boolean canCut(ColumnDefinition column) {
        boolean byWorth =
                switch (column.type().name()) {
                    case SMALLINT, INTEGER, BIGINT, DECIMAL, DATE, TIMESTAMP -> true;
                    default -> false;
                };
        return byWorth && known.selected(column).isEmpty();
    }

    @Override
    public String literal(ColumnDefinition column, String value) {
        return DriverCells.isTimed(column.type().name())
                ? known.scripting().literal(column, value)
                : super.literal(column, value);
    }
}
