package org.orderlyferry.databases.dialect;

import java.sql.Connection;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;

/** How records are read out of a system. Immutable, for use by any number of threads. */
public interface Reading {

    /** An exact number as value text has it. */
    Pattern EXACT_NUMBER = Pattern.compile("-?[0-9]+(\\.[0-9]+)?");

    /** Types that are what they are called; another one may be a domain, or an amount of money. */
    Pattern OWN_ORDER = Pattern.compile(
            "(?i)^(tinyint|smallint|mediumint|int|integer|bigint|numeric|decimal|date|datetime|timestamp)\\b");

    /** Prepares a connection that is read from: nothing can be changed, one snapshot for all tables, rows streamed. */
    void prepare(Connection connection) throws SQLException;

    /**
     * Why the tables that a connection reads, which was prepared, aren't of one moment while others write; as a sentence.
     *
     * @return empty where they are
     */
    default Optional<String> severalMoments(Connection connection) throws SQLException {
        return Optional.empty();
    }

    /** What stands for a column in the list of a SELECT. */
    String selected(ColumnDefinition column);

    /** How values of a column are read. */
    CellReader reader(ColumnDefinition column);

    /**
     * Reads by the system's bulk lane, where it has one.
     *
     * @param table with the columns to give
     * @param rest what stands behind the list of a SELECT: {@code FROM …}
     */
    @API(status = API.Status.INTERNAL)
    default Optional<RecordReader> bulk(Session session, TableDefinition table, String rest, OutOfRangeCells outOfRange)
            throws SQLException {
        return Optional.empty();
    }

    /**
     * How many records a table has by the system's own statistics.
     *
     * @return empty where they don't say, or the user may not read the table
     */
    default OptionalLong estimate(Session session, TableName table) throws SQLException {
        return OptionalLong.empty();
    }

    /**
     * Marks what the session sees of a table, so that {@link #unwritten} can tell later whether it is still that.
     *
     * @param standing whether records that were put elsewhere, as they are, count as written
     * @return empty where that can't be told
     */
    default Optional<String> mark(Session session, TableName table, boolean standing) throws SQLException {
        return Optional.empty();
    }

    /**
     * How many records a table has, if none has come or changed since a mark, nor has its definition: as many as then are the same.
     *
     * @return empty where one has, or where nobody knows
     */
    default OptionalLong unwritten(Session session, TableName table, String mark) throws SQLException {
        return OptionalLong.empty();
    }

    /** What ends a SELECT that has an order, of which one row is wanted, after so many others. */
    default String oneAfter(long rows) {
        return " LIMIT 1 OFFSET " + rows;
    }

    /** How rows are counted, however many there are. */
    default String counting() {
        return "COUNT(*)";
    }

    /** Whether a table can be cut by a column: its order is that of its comparisons, and its values can be written. */
    default boolean canCut(ColumnDefinition column) {
        return column.enumeration().isEmpty()
                && switch (column.type().name()) {
                    case SMALLINT, INTEGER, BIGINT, DECIMAL, CHARACTER, VARCHAR, DATE, TIMESTAMP, UUID -> true;
                    default -> false;
                };
    }

    /**
     * The system's own column that says where a record stands, by which a table can be cut as well; its values are good for as
     * long as the same state is seen.
     */
    default Optional<ColumnDefinition> standing() {
        return Optional.empty();
    }

    /**
     * In which of the system's files a table's records stand. Until the session's transaction ends, nobody puts them elsewhere.
     *
     * @return empty where they never are
     */
    default Optional<String> standingIn(Session session, TableName table) throws SQLException {
        return Optional.empty();
    }

    /**
     * Where to cut a table by {@link #standing}, if that takes less reading than ranges of its key: records that follow each
     * other by the key may stand anywhere, and then each range of it is read from all over the table.
     *
     * @param key the column by which it would be cut else; empty where it has none such
     * @param slices how many are wanted
     * @return the first value of each slice but the first; none where the key serves
     */
    @API(status = API.Status.INTERNAL)
    default List<String> standings(Session session, TableName table, Optional<ColumnDefinition> key, long slices)
            throws SQLException {
        return List.of();
    }

    /**
     * Whether the system itself compares a column's values as what they are read as: numbers by what they are worth, days and
     * times in their order.
     */
    default boolean canRestrict(ColumnDefinition column) {
        return switch (column.type().name()) {
            case SMALLINT, INTEGER, BIGINT, DECIMAL, DATE, TIMESTAMP ->
                canCut(column) && OWN_ORDER.matcher(column.sourceType()).find();
            default -> false;
        };
    }

    /** A value of a column that is compared exactly, as it stands in a condition; what is no value of its type is a text. */
    default String literal(ColumnDefinition column, String value) {
        boolean bare = column.type().name().isExactNumber()
                ? EXACT_NUMBER.matcher(value).matches()
                : column.type().name() == TypeName.BOOLEAN && (value.equals("true") || value.equals("false"));
        return bare ? value : DefinitionSql.string(value);
    }

    /**
     * Opens more sessions that see the very state that one sees; none where that isn't offered. If it fails, those that
     * were opened are closed by who asked.
     *
     * @param first the one that is there; it has read nothing yet when this is asked first
     * @param open gives another session, ready to read
     * @param notes why there are none, where a person can do something about it
     */
    default void share(Session first, Supplier<Session> open, int count, LoadNotes notes) throws SQLException {
        // one reads alone
    }

    /**
     * Has a session let go of what it holds for each table that it has read, where there are many. It goes on to see the
     * same; before it has read any, the state of that moment.
     *
     * @param keeper gives a session that does nothing but keep what is seen, if there can be one
     */
    default void lighten(Session session, Supplier<Optional<Session>> keeper) throws SQLException {
        // nothing mounts up
    }

    /**
     * A text by which sessions of other processes see the very state that one sees, for as long as it is open.
     *
     * @param first it has read nothing yet
     */
    default Optional<String> moment(Session first) throws SQLException {
        return Optional.empty();
    }

    /**
     * Has a session see the state that another process's session has told of.
     *
     * @param session it has read nothing yet
     */
    default void see(Session session, String moment) throws SQLException {
        throw new UsageException(session.address() + " can't show one moment to several processes");
    }

    /** Whether a prepared query tells its columns before it is run. */
    default boolean describesPrepared() {
        return true;
    }

    /** What the system's own SQL can be asked of a column. */
    default OwnTotals ownTotals(ColumnDefinition column) {
        if (column.enumeration().isPresent()) {
            return OwnTotals.COUNTED;
        }
        return switch (column.type().name()) {
            case SMALLINT, INTEGER, BIGINT -> new OwnTotals(true, true, false);
            // sums of more digits may be rounded
            case DECIMAL ->
                new OwnTotals(true, column.type().isSized() && column.type().size() <= 38, false);
            case DATE -> new OwnTotals(true, false, false);
            case CHARACTER, VARCHAR, CLOB -> new OwnTotals(false, false, isPlainText(column));
            case BINARY, VARBINARY, BLOB -> new OwnTotals(false, false, true);
            default -> OwnTotals.COUNTED;
        };
    }

    /** How the system takes digests of records itself; empty where it can't, or not as fast as they are read. */
    @API(status = API.Status.INTERNAL)
    default Optional<RecordDigests> digests() {
        return Optional.empty();
    }

    /** Whether a column's texts are what the system has in it, and not how something else is read. */
    default boolean isPlainText(ColumnDefinition column) {
        return true;
    }

    /** What is left of a whole number when it is divided. */
    default String remainder(String dividend, String divisor) {
        return dividend + " % " + divisor;
    }

    /** An expression's value as text. */
    default String asText(String expression) {
        return "CAST(" + expression + " AS CHARACTER VARYING)";
    }

    /**
     * The expression that a column of a query is asked for by, where its value isn't what travels; as {@link #selected} is
     * for a table's.
     */
    default Optional<String> selectedOfQuery(ColumnDefinition column) {
        return Optional.empty();
    }

    /** What a query's column is, by what the driver says of it. */
    LogicalType queried(ResultSetMetaData columns, int index) throws SQLException;

    /** A table's size on disk in bytes, or -1 where the system doesn't tell. */
    long bytes(Connection connection, TableName table) throws SQLException;

    /** Whether the system reads all of a table to tell how much room it takes. */
    default boolean readsForBytes() {
        return false;
    }
}
