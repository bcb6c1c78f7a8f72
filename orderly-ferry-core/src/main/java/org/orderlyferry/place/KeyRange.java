package org.orderlyferry.place;

import java.util.List;

/**
 * A part of a table by the values of some columns: from one combination of them on, up to another one. It is a plain
 * value, so that it can be written down and sent elsewhere. One by a system's own column, which says where records stand in its
 * files, is only good for readers that see the same state as whoever cut the table.
 *
 * @param columns the columns, the one that counts most first; none for all records
 * @param from value text of the smallest combination that belongs to it; empty for no lower end
 * @param to value text of the smallest combination that no longer belongs to it; empty for no upper end
 * @param nulls whether it holds those records, and only those, that have no value in the first column
 * @param standing whether the column is none of the table's, but the system's own for where records stand
 */
public record KeyRange(List<String> columns, List<String> from, List<String> to, boolean nulls, boolean standing) {

    /** All records. */
    public static final KeyRange ALL = new KeyRange(List.of(), List.of(), List.of(), false);

    public KeyRange {
        columns = List.copyOf(columns);
        from = List.copyOf(from);
        to = List.copyOf(to);
    }

    /** By columns of the table. */
    public KeyRange(List<String> columns, List<String> from, List<String> to, boolean nulls) {
        this(columns, from, to, nulls, false);
    }

    /** By a system's own column: from one place on, up to another one; empty for no end. */
    public static KeyRange standing(String column, List<String> from, List<String> to) {
        return new KeyRange(List.of(column), from, to, false, true);
    }

    /** Records with no value in a column. */
    public static KeyRange nulls(String column) {
        return new KeyRange(List.of(column), List.of(), List.of(), true);
    }

    /** Whether it holds all records, whatever their values. */
    public boolean isAll() {
        return columns.isEmpty();
    }

    @Override
    public String toString() {
        if (isAll()) {
            return "all";
        }
        String key = String.join(", ", columns);
        if (nulls) {
            return key + " is null";
        }
        return key
                + (from.isEmpty() ? "" : " from " + String.join(", ", from))
                + (to.isEmpty() ? "" : " up to " + String.join(", ", to));
    }
}
