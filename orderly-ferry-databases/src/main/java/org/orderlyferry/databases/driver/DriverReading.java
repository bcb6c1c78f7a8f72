package org.orderlyferry.databases.driver;

import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.dialect.OwnTotals;
import org.orderlyferry.databases.dialect.Reading;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.slf4j.LoggerFactory;

/** How records are read by any driver. */
class DriverReading implements Reading {

    private static final int SERVER_TEXT = 60;

    private static final Pattern ALONE =
            Pattern.compile("jdbc:(hsqldb:(file|mem|res):|derby:(?!//)|duckdb:|firebirdsql:embedded:)");

    final DriverDialect dialect;

    DriverReading(DriverDialect dialect) {
        this.dialect = dialect;
    }

    /**
     * Reads only, where the driver lets it be told. All tables are of one moment where a level of isolation gives that
     * without locks that keep others from writing, which no driver tells; so it is asked for where it is known.
     */
    @Override
    public void prepare(Connection connection) throws SQLException {
        try {
            connection.setReadOnly(true);
        } catch (SQLException e) {
            // nothing but queries is sent all the same, and whatever they did is rolled back
            LoggerFactory.getLogger(DriverReading.class).debug("{} can't be told to read only", dialect.system(), e);
        }
        DatabaseMetaData data = connection.getMetaData();
        int level = momentLevel(connection);
        if (level != Connection.TRANSACTION_NONE && data.supportsTransactionIsolationLevel(level)) {
            connection.setTransactionIsolation(level);
        }
    }

    /** Of a file that one process has at a time, nobody else writes anything. */
    @Override
    public Optional<String> severalMoments(Connection connection) throws SQLException {
        DatabaseMetaData data = connection.getMetaData();
        int level = momentLevel(connection);
        boolean one = level != Connection.TRANSACTION_NONE && connection.getTransactionIsolation() == level;
        if (one || ALONE.matcher(String.valueOf(data.getURL())).lookingAt()) {
            return Optional.empty();
        }
        return Optional.of(
                "each table is of the time at which it is read, since no level of isolation is known here that shows one"
                        + " moment and keeps nobody from writing; let nobody write meanwhile"
                        + momentAdvice());
    }

    /** The level of isolation that is one moment without locks; TRANSACTION_NONE where none is known to be. */
    int momentLevel(Connection connection) throws SQLException {
        return dialect.system().startsWith("Firebird")
                ? Connection.TRANSACTION_REPEATABLE_READ
                : Connection.TRANSACTION_NONE;
    }

    /** What lets a database have such a level; as the end of a sentence. */
    String momentAdvice() {
        return "";
    }

    @Override
    public String selected(ColumnDefinition column) {
        String name = dialect.quote(column.name());
        if (column.type().name() == TypeName.XML && dialect.system().equals("Apache Derby")) {
            // ISO/IEC 9075-14: it hands out no value of this type but as a text that it is asked for
            return "XMLSERIALIZE(" + name + " AS CLOB)";
        }
        return DriverCells.isTimed(column.type().name())
                        && dialect.trial().reading(column.type().name()) == Way.SERVER_TEXT
                ? "CAST(" + name + " AS VARCHAR(" + SERVER_TEXT + "))"
                : name;
    }

    @Override
    public CellReader reader(ColumnDefinition column) {
        return DriverCells.reader(
                column.type(), dialect.trial().reading(column.type().name()));
    }

    @Override
    public OptionalLong estimate(Session session, TableName table) throws SQLException {
        return OptionalLong.empty();
    }

    /** ISO/IEC 9075-2 has it so. */
    @Override
    public String oneAfter(long rows) {
        return " OFFSET " + rows + " ROWS FETCH NEXT 1 ROWS ONLY";
    }

    /** A system's own SQL is known too little of to be asked for more than a count. */
    @Override
    public OwnTotals ownTotals(ColumnDefinition column) {
        return OwnTotals.COUNTED;
    }

    /** By JDBC's escape, which each driver puts into its system's own words. */
    @Override
    public String remainder(String dividend, String divisor) {
        return "{fn MOD(" + dividend + ", " + divisor + ")}";
    }

    @Override
    public LogicalType queried(ResultSetMetaData columns, int index) throws SQLException {
        return DriverTypes.logical(
                columns.getColumnType(index),
                columns.getColumnTypeName(index),
                columns.getPrecision(index),
                columns.getScale(index));
    }

    @Override
    public long bytes(Connection connection, TableName table) {
        return -1;
    }
}
