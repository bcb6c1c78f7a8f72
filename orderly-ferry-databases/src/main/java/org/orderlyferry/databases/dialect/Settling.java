package org.orderlyferry.databases.dialect;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;

/**
 * How tables that were loaded beside others take their place, and how records are added to tables that stay. Immutable,
 * for use by any number of threads.
 */
public interface Settling {

    /**
     * A statement, and what it does.
     *
     * @param deed empty where a rollback, or another step's undoing, undoes it
     */
    record Step(String sql, Optional<Deed> deed) {
        public Step(String sql, Deed deed) {
            this(sql, Optional.of(deed));
        }

        public static Step of(String sql) {
            return new Step(sql, Optional.empty());
        }
    }

    /**
     * What is to be done about a deed of a load that doesn't go on: what undoes it, or, for what is only left over, what
     * ends it. Asked of the database as it is now.
     *
     * @return nothing where the database shows that the deed was never done, or was undone
     * @throws SQLException if that can't be found out, or the deed isn't one that a load of this system does
     */
    default List<String> remedy(Session session, Deed deed) throws SQLException {
        Dialect dialect = session.dialect();
        if (deed instanceof Deed.TableMade made) {
            if (!ReservedNames.isReserved(made.table().name())) {
                throw unknown(deed);
            }
            return session.catalogue().has(made.table())
                    ? List.of("DROP TABLE " + dialect.quote(made.table()))
                    : List.of();
        }
        if (deed instanceof Deed.SchemaMade made) {
            // without CASCADE: what somebody else has put there keeps it
            return dialect.writing().schemas(session).contains(made.schema())
                    ? List.of("DROP SCHEMA " + dialect.quote(made.schema()))
                    : List.of();
        }
        throw unknown(deed);
    }

    /** Whether one of two names, of the same schema, is ours, so that a load may have exchanged them. */
    static boolean isOnTheWay(TableName one, TableName other) {
        return one.schema().equals(other.schema())
                && ReservedNames.reserved(one, other).isPresent();
    }

    /** The tables under names of ours that a load that has ended leaves behind. */
    static List<Deed> tablesLeft(List<Arrival> arrivals) {
        return arrivals.stream()
                .filter(a -> !a.isNewTable() || a.there().isPresent())
                .map(a -> (Deed) new Deed.TableMade(a.isNewTable() ? a.aside() : a.loaded()))
                .toList();
    }

    /** A deed that no load of this system has done; so somebody else has written it. */
    static SQLException unknown(Deed deed) {
        return new SQLException("the ledger of an earlier load says what no load does: " + deed);
    }

    /**
     * What depends on a table so that it can't be replaced, as sentences.
     *
     * @param comes the table that is to take its place
     */
    default List<String> obstacles(Session session, TableDefinition there, TableDefinition comes) throws SQLException {
        return List.of();
    }

    /** Why records can't be added to a table that is there, or merged into it, so that all of them are in or none; as a sentence. */
    default Optional<String> withoutTransactions(Session session, TableName there) throws SQLException {
        return Optional.empty();
    }

    /**
     * Why records can't be merged into a table that is there, as a sentence.
     *
     * @param columns those that the records bring
     */
    default Optional<String> unmergeable(TableDefinition there, List<ColumnDefinition> columns) {
        return Optional.empty();
    }

    /** Why so many tables can't take their places at once, which would else show when all records are in; as a sentence. */
    default Optional<String> tooManyAtOnce(Session session, List<Arrival> arrivals) throws SQLException {
        return Optional.empty();
    }

    /** Whether references of other tables to a column can refer to another one in its place. */
    default boolean canStandFor(ColumnDefinition there, ColumnDefinition comes) {
        return true;
    }

    /** Runs a statement, and tells how many rows it changed itself, apart from those that triggers did. */
    default long changed(Session session, String sql) throws SQLException {
        return session.update(sql);
    }

    /**
     * Adds records of a loaded table to the one that stays, and tells how many.
     *
     * @param where which ones, of {@code s}, with a blank in front; empty for all
     */
    default long insert(Session session, Arrival arrival, List<String> columns, String where) throws SQLException {
        Dialect dialect = session.dialect();
        String names = columns.stream().map(dialect::quote).collect(Collectors.joining(", "));
        String values = columns.stream().map(c -> "s." + dialect.quote(c)).collect(Collectors.joining(", "));
        return changed(
                session,
                "INSERT INTO " + dialect.quote(arrival.name()) + " (" + names + ")"
                        + dialect.writing().insertClause(arrival.table()) + " SELECT " + values + " FROM "
                        + dialect.quote(arrival.loaded()) + " s" + where);
    }

    /** The table under the name, and with the names of keys, that it has while it is loaded. */
    TableDefinition whileLoaded(Arrival arrival);

    /** Steps by which new tables get their names; in the order given, in one transaction where the system has that. */
    List<Step> takePlaces(Session session, List<Arrival> arrivals) throws SQLException;

    /** Whether tables that are replaced can be kept in schemas of ours, so that they can be brought back in a moment. */
    default boolean keepsReplaced() {
        return false;
    }

    /** Why such tables can't be kept, as a sentence. */
    default Optional<String> whyNotKept(Session session, List<TableName> tables) throws SQLException {
        return Optional.empty();
    }

    /**
     * Statements by which tables that were kept are in their places again, without their own references; in one transaction.
     *
     * @param back with the table that is brought back as the loaded one, and the one in whose place it comes, if it is there
     * @param going tables that go with those
     */
    default List<String> bringBack(Session session, List<Arrival> back, List<TableName> going) throws SQLException {
        throw new UnsupportedOperationException("this system keeps no tables");
    }

    /** Steps before records are added to tables that stay, so that their references needn't hold in between. */
    default List<Step> loosen(Session session, List<Arrival> arrivals) throws SQLException {
        return List.of();
    }

    /** A reference that isn't there for a while: the statement that takes it away, and those that make it again. */
    record SetAside(String drop, List<String> add) {}

    /**
     * References of tables that stay which are better looked at once, in the end, than for each record that goes.
     *
     * @param going tables that records go out of
     */
    default List<SetAside> setAside(Session session, List<Arrival> arrivals, Set<TableName> going) throws SQLException {
        return List.of();
    }

    /**
     * All references to some tables, where nobody looks after references once they aren't there: for records that can't come, go and
     * change in any order of statements while somebody does.
     *
     * @return empty where that can't be had, or is so anyway
     */
    default Optional<List<SetAside>> setAside(Session session, Set<TableName> to) throws SQLException {
        return Optional.empty();
    }

    /** Statements that have looked at what waits for the end of a transaction, so that references can be made again. */
    default List<String> waited() {
        return List.of();
    }

    /** Statements after records were added to tables that stay, in the same transaction. */
    default List<String> tighten(Session session, List<Arrival> arrivals) throws SQLException {
        return List.of();
    }

    /**
     * Whether nobody looks after references while records are brought into tables that stay: nothing that breaks one is refused,
     * and nothing goes or changes with what it refers to.
     */
    default boolean mergesUnheeded() {
        return false;
    }

    /**
     * Has the system look after references of a session that loads, with what is to be done to records that refer to one that
     * goes; or not any more. Where that can't be done within a transaction, what it has done so far is rolled back.
     */
    default void heed(Session session, boolean on) throws SQLException {
        // it does anyway
    }

    /** Whether it can be had to do so within a transaction. */
    default boolean heedsWithin() {
        return false;
    }

    /** What a load leaves behind when nothing needs to be undone any more. */
    default List<Deed> leftovers(List<Arrival> arrivals) {
        return List.of();
    }

    /**
     * Whether two values of a column, each given as SQL, differ; null equals null. What the column's own equality takes for the same, and
     * isn't, differs: spellings under a collation, blanks at the end, the two zeros.
     */
    String differ(ColumnDefinition column, String one, String other);

    /** Whether a column of a key has just the value that is given as SQL, and not only one that its collation takes for the same. */
    default String isJust(ColumnDefinition column, String name, String value) {
        boolean ofBytes =
                column.type().name() == TypeName.VARCHAR || column.type().name() == TypeName.CLOB;
        return name + " = " + value + (ofBytes ? " AND NOT (" + differ(column, name, value) + ")" : "");
    }

    /**
     * An UPDATE of the table that is there, by the one that was loaded; as ISO/IEC 9075-2 has it where nothing else is said.
     *
     * @param keys which records belong together, of {@code t}, the one that is there, and {@code s}, the loaded one
     * @param differ which of them have changed
     */
    default String update(Session session, Arrival arrival, String keys, String differ, List<ColumnDefinition> set) {
        Dialect dialect = session.dialect();
        return "MERGE INTO " + dialect.quote(arrival.name()) + " t USING " + dialect.quote(arrival.loaded()) + " s ON ("
                + keys + ") WHEN MATCHED AND " + differ + " THEN UPDATE SET "
                + set.stream()
                        .map(c -> dialect.quote(c.name()) + " = s." + dialect.quote(c.name()))
                        .collect(Collectors.joining(", "));
    }

    /**
     * A statement after which tables that refer to each other can be taken away in any order, where references can't be
     * taken off a table; empty where they can.
     */
    default Optional<String> lettingReferencesWait() {
        return Optional.empty();
    }
}
