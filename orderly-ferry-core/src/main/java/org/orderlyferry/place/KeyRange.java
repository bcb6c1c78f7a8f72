package org.orderlyferry.place;

import java.util.List;

/**
 * A part of a table by the values of some columns: from one combination of them on, up to another one. It is a plain
 * value, so that it can be written down and sent elsewhere.
 *
 * @param columns the columns, the one that counts most first; none for all records
 * @param from value text of the smallest combination that belongs to it; empty for no lower end
 * @param to value text of the smallest combination that no longer belongs to it; empty for no upper end
 * @param nulls whether it holds those records, and only those, that have no value in the first column
 */
public record KeyRange(List<String> columns, List<String> from, List<String> to, boolean nulls) {

    /** All records. */
    public static final KeyRange ALL = new KeyRange(List.of(), List.of(), List.of(), false);

    public KeyRange {
        columns = List.copyOf(columns);
        from = List.copyOf(from);
        to = List.copyOf(to);
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
