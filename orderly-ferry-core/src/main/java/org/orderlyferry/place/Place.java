package org.orderlyferry.place;

import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.Tally;

/**
 * Anything records live in: a database, an export set, a single file. All methods throw
 * {@link org.orderlyferry.problem.FerryException} when the place fails. Not safe for use by several threads at once.
 */
public interface Place extends AutoCloseable {

    /** The address, free of secrets, fit to be shown. */
    String address();

    /** What kind of place it is, with its version, for example {@code H2 2.3.232}. */
    String system();

    /** All tables, in order of their names. */
    List<TableName> tables();

    /**
     * A table's definition.
     *
     * @throws org.orderlyferry.problem.UsageException if the table isn't there
     */
    TableDefinition define(TableName table);

    /**
     * A table's definition, with columns that it may have as well: where a place knows only of those that some record has, one
     * that none has is null in all of them, and may be read from then on.
     *
     * @param also columns that another place has for the same records
     * @throws org.orderlyferry.problem.UsageException if the table isn't there
     */
    default TableDefinition define(TableName table, List<ColumnDefinition> also) {
        return define(table);
    }

    /**
     * The tables that refer to one of these, itself among them perhaps; where a place can't be asked for them at once, all
     * tables, since any of them may.
     */
    default List<TableName> referrers(TableName table) {
        return tables();
    }

    /**
     * What was found of a table's columns where the place has no definitions but those of its records, by the columns' names.
     *
     * @return empty where definitions are the place's own
     */
    default Map<String, FieldCounts> fieldCounts(TableName table) {
        return Map.of();
    }

    /** How many records a table has, counted now. A file's header is no record. */
    long count(TableName table);

    /**
     * How many records a table has, about: for plans and progress, where counting a large one would take too long.
     *
     * @throws org.orderlyferry.problem.PlaceException if the table can't be read
     */
    default long estimate(TableName table) {
        return count(table);
    }

    /** How much room a table takes, in bytes, where the place can tell without reading it. */
    OptionalLong bytes(TableName table);

    /** As {@link #bytes}, but only where that takes no longer than asking: for plans. */
    default OptionalLong quickBytes(TableName table) {
        return bytes(table);
    }

    /** The tally that was taken of a table when the place was made, where it keeps one. */
    default Optional<Tally> keptTally(TableName table) {
        return Optional.empty();
    }

    /**
     * Whether a range of some columns holds those records whose values, as they are told here, lie in it. It doesn't where
     * values are made of others on their way: there, ranges are of the others, and mean something to this place alone.
     *
     * @param table one of the place's
     * @param columns of it
     */
    default boolean rangesByValue(TableName table, List<String> columns) {
        return true;
    }

    /**
     * How tables of another place are named here, in the same order: with the names of tables, columns and keys that a
     * load gives them.
     */
    default List<TableDefinition> named(List<TableDefinition> others) {
        return others;
    }

    /** Whether a table's definition is its own, rather than proposed from the values that are there. */
    default boolean keepsDefinition(TableName table) {
        return true;
    }

    /**
     * Control totals of a table as the place's own SQL computes them, in the order of its columns.
     *
     * @return empty where the place has no SQL
     */
    default Optional<List<ServerTotal>> totals(TableName table) {
        return Optional.empty();
    }

    /** Digests that the place's server takes itself; empty where it can't, or where the place's records are made of others. */
    @API(status = API.Status.INTERNAL)
    default Optional<OwnDigests> ownDigests() {
        return Optional.empty();
    }

    /**
     * What the place would make of another place's tables if they were loaded into it, in place of those that are there.
     * Nothing is changed.
     *
     * @return empty where the place keeps definitions as they come, or keeps none
     */
    default Optional<Expectation> expected(List<TableDefinition> others) {
        return Optional.empty();
    }

    /** The databases that a server has, where the address names none; empty where it names one. */
    default List<String> databases() {
        return List.of();
    }

    /**
     * Cuts a table into slices that hold all its records, and each once. A place that knows no better gives the whole.
     *
     * @param rows how many records it has
     */
    default List<Slice> cut(TableDefinition table, long rows, Cut cut) {
        return List.of(Slice.whole(table));
    }

    /** Opens more ways into this place, for other threads; to be asked before anything is read. */
    default Companions companions(int count) {
        return Companions.NONE;
    }

    /**
     * A text by which another process opens the place so that it sees the very state that this one sees, for as long as this
     * one is open; to be asked before anything is read.
     *
     * @return empty where it can't show one state to several
     */
    default Optional<String> moment() {
        return Optional.empty();
    }

    /**
     * A text that is the same for as long as the place gives the same records, where it can tell without reading them; empty
     * where others may change them at any time.
     */
    default Optional<String> state() {
        return Optional.empty();
    }

    /**
     * What a person should know of how the place is read: that a description lay beside a file, and was used, or in which row of
     * a spreadsheet its headings were found.
     */
    default List<Finding> notices() {
        return List.of();
    }

    /** Those of them that are about some tables, or about none in particular. */
    default List<Finding> notices(Collection<TableName> tables) {
        List<TableName> all = tables();
        return notices().stream()
                .filter(f -> tables.contains(f.table()) || !all.contains(f.table()))
                .toList();
    }

    /** What is here but can't be carried. */
    List<LeftBehind> leftBehind();

    /** What of it concerns whoever carries some tables: all but what is of another of the tables here. */
    default List<LeftBehind> leftBehind(Collection<TableName> tables) {
        Set<TableName> others = new HashSet<>(tables());
        others.removeAll(Set.copyOf(tables));
        return leftBehind().stream()
                .filter(l -> l.table().filter(others::contains).isEmpty())
                .toList();
    }

    /**
     * Sees to it that the place is whole, to the last bit; others may read it meanwhile.
     *
     * @throws org.orderlyferry.problem.BrokenSetException if it isn't
     */
    default void verify() {
        verify(() -> {});
    }

    /**
     * The same, for who may want it to end before it has seen all.
     *
     * @param check asked again and again whether to go on, by any thread; what it throws ends it
     * @throws org.orderlyferry.problem.BrokenSetException if the place isn't whole
     */
    default void verify(Runnable check) {}

    /**
     * Sees to it that all files that the place is made of are there, without reading records.
     *
     * @throws org.orderlyferry.problem.BrokenSetException if they aren't
     */
    default void verifyFiles() {}

    /**
     * Looks, without reading a table, whether its records will come as its definition says; a file is known by its
     * header.
     *
     * @throws org.orderlyferry.problem.FerryException if they won't
     */
    default void check(TableDefinition table) {
        // a database gives what it defines
    }

    /** Reads records. Only one reader is open at a time. */
    RecordReader read(Slice slice);

    /** Who hears of records that can't be taken, as the place was opened. */
    default Rejects rejects() {
        return Rejects.STOP;
    }

    /** Reads records; those that can't be taken are heard of by others than those that the place was opened with. */
    default RecordReader read(Slice slice, Rejects rejects) {
        return read(slice);
    }

    /**
     * The same, where the place may leave out records that aren't in a sample; who asks does so as well.
     *
     * @param sample by the table's key
     */
    default RecordReader readSome(Slice slice, Rejects rejects, KeySample sample) {
        return read(slice, rejects);
    }

    /**
     * The same, where the place may leave out records that a restriction doesn't keep; its reader counts those, and who asks looks
     * at the others.
     */
    default RecordReader readRestricted(Slice slice, Rejects rejects, Restriction restriction) {
        return read(slice, rejects);
    }

    /**
     * Marks what the place shows of a table, so that {@link #unwritten} can tell later, in one question, whether it is still that.
     *
     * @param standing whether records that were put elsewhere, as they are, count as written
     * @return empty where it can't
     */
    @API(status = API.Status.INTERNAL)
    default Optional<String> mark(TableName table, boolean standing) {
        return Optional.empty();
    }

    /**
     * How many records a table has, if none has come or changed since a mark: as many as then are the same.
     *
     * @return empty where one has, or where nobody knows
     */
    @API(status = API.Status.INTERNAL)
    default OptionalLong unwritten(TableName table, String mark) {
        return OptionalLong.empty();
    }

    /**
     * Ends what this place, and its companions, wait for elsewhere, such as a statement that a server runs: it fails at
     * once. May be called by any thread; what is done afterwards to put things back isn't touched.
     */
    default void cancel() {
        // reads and writes of files end by themselves
    }

    @Override
    void close();
}
