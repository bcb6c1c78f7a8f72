package org.orderlyferry.reshape;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.Rejects;

/**
 * What is to be different about tables on their way. Columns are named as in {@code TABLE.COLUMN}, or {@code COLUMN} for
 * every table that has it; {@code *} stands for any characters, and {@code \\*} for itself. Not safe for use by several threads.
 */
public final class Reshaping {

    private final List<String> only = new ArrayList<>();
    private final List<String> skipped = new ArrayList<>();
    private final Map<String, String> names = new LinkedHashMap<>();
    private final Map<String, LogicalType> types = new LinkedHashMap<>();
    private final List<String> conditions = new ArrayList<>();
    private final Map<String, String> tableConditions = new LinkedHashMap<>();
    private final Map<String, TableName> tableNames = new LinkedHashMap<>();
    private final List<String> without = new ArrayList<>();
    private String tableName = "";
    private String number = "";
    private boolean readable;

    /** A name as a pattern that stands for nothing else, whatever it holds. */
    public static String literally(String name) {
        return name.replace("\\", "\\\\").replace("*", "\\*");
    }

    /** Only these columns, in this order. */
    public Reshaping only(List<String> columns) {
        only.addAll(columns);
        return this;
    }

    /** All but these columns. */
    public Reshaping skip(List<String> columns) {
        skipped.addAll(columns);
        return this;
    }

    /** A column by another name. */
    public Reshaping rename(String column, String name) {
        names.put(column, name);
        return this;
    }

    /**
     * A column of another type.
     *
     * @param type for example {@code DECIMAL(12,2)}
     */
    public Reshaping type(String column, String type) {
        try {
            types.put(column, LogicalType.parse(type));
        } catch (IllegalArgumentException e) {
            throw new UsageException(e.getMessage() + "; CHARACTER VARYING(40), DECIMAL(12,2) and DATE are some", e);
        }
        return this;
    }

    /** Only records for which a condition of SQL holds. */
    public Reshaping where(String condition) {
        conditions.add(condition);
        return this;
    }

    /** Only records of one table for which a condition of SQL holds. */
    public Reshaping where(String table, String condition) {
        tableConditions.put(table, condition);
        return this;
    }

    /** A table by another name; references go to it by that. */
    public Reshaping table(String table, TableName name) {
        tableNames.put(table, name);
        return this;
    }

    /**
     * Leaves behind indexes, unique keys, references and checks of these names: {@code NAME}, or {@code TABLE.NAME} for one
     * table's; those without a name by their columns, {@code A+B}.
     */
    public Reshaping without(List<String> names) {
        without.addAll(names);
        return this;
    }

    /** The one table by another name. */
    public Reshaping named(String name) {
        tableName = name;
        return this;
    }

    /** A column of this name, in front of all, that numbers the records from 1 and is their key. */
    public Reshaping numbered(String column) {
        number = column;
        return this;
    }

    /** Columns that aren't renamed by names for readers: {@code field_code} as {@code Field code}. */
    public Reshaping readable(boolean value) {
        readable = value;
        return this;
    }

    /** Whether nothing is to be different. */
    public boolean isNothing() {
        return only.isEmpty()
                && skipped.isEmpty()
                && names.isEmpty()
                && types.isEmpty()
                && conditions.isEmpty()
                && tableConditions.isEmpty()
                && tableNames.isEmpty()
                && without.isEmpty()
                && tableName.isEmpty()
                && number.isEmpty()
                && !readable;
    }

    List<String> only() {
        return only;
    }

    List<String> skipped() {
        return skipped;
    }

    Map<String, String> names() {
        return names;
    }

    Map<String, LogicalType> types() {
        return types;
    }

    /** All conditions that a table's records must meet. */
    List<String> conditions(TableName table) {
        List<String> all = new ArrayList<>(conditions);
        Optional.ofNullable(tableConditions.get(table.toString())).ifPresent(all::add);
        return all;
    }

    /** What a table is to be called. */
    TableName name(TableName table) {
        TableName other = tableNames.get(table.toString());
        if (other != null) {
            return other;
        }
        return tableName.isEmpty() ? table : new TableName(table.schema(), tableName);
    }

    /** The tables that are named one by one. */
    List<String> namedTables() {
        List<String> all = new ArrayList<>(tableConditions.keySet());
        all.addAll(tableNames.keySet());
        return all;
    }

    List<String> without() {
        return without;
    }

    String tableName() {
        return tableName;
    }

    boolean isReadable() {
        return readable;
    }

    String number() {
        return number;
    }

    /** All that is to be different, in one line. */
    @Override
    public String toString() {
        return "only " + only + " skip " + skipped + " names " + names + " types " + types + " where " + conditions
                + tableConditions + " tables " + tableNames
                + " without " + without + " named " + tableName + " numbered " + number + " readable " + readable;
    }

    /**
     * The place with its tables so.
     *
     * @param rejects hears of values that don't fit another type
     * @throws UsageException if no table has a column that is named
     */
    public Place over(Place place, Rejects rejects) {
        return isNothing() ? place : new ReshapedPlace(place, this, rejects);
    }
}
