package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;

/**
 * Where in a statement's lists of values that of each column stands. Statements repeat, so what was found for the last one is
 * kept: a table may have thousands of columns. Not safe for use by several threads.
 */
final class ValuePlaces {

    private final List<ColumnDefinition> columns;
    private final boolean caseMatters;
    private final Map<String, Integer> exact = new HashMap<>();
    private List<String> named;
    private List<Integer> places = List.of();
    private List<Integer> filled;
    private final int[] at;

    ValuePlaces(TableDefinition table, boolean caseMatters) {
        this.columns = table.columns();
        this.caseMatters = caseMatters;
        this.at = new int[columns.size()];
        for (int i = 0; i < columns.size(); i++) {
            exact.putIfAbsent(columns.get(i).name(), i);
        }
    }

    /**
     * Goes on to a statement that names these columns; none for all.
     *
     * @throws IllegalArgumentException if the table lacks one; the message is its name
     */
    void statement(List<String> names) {
        if (names.equals(named)) {
            return;
        }
        List<Integer> found = new ArrayList<>();
        for (String name : names) {
            found.add(place(name));
        }
        for (int i = 0; names.isEmpty() && i < columns.size(); i++) {
            found.add(i);
        }
        places = found;
        named = names;
    }

    private int place(String name) {
        Integer place = exact.get(name);
        for (int i = 0; place == null && !caseMatters && i < columns.size(); i++) {
            place = name.equalsIgnoreCase(columns.get(i).name()) ? i : null;
        }
        if (place == null) {
            throw new IllegalArgumentException(name);
        }
        return place;
    }

    /** How many columns the statement has values for. */
    int size() {
        return places.size();
    }

    /**
     * Goes on to a list of so many values. Some systems leave out what is computed, and what is counted, where no columns are
     * named.
     *
     * @return whether a list can have so many
     */
    boolean list(int count) {
        List<Integer> now = places;
        if (named.isEmpty() && count != places.size()) {
            List<Integer> given = places.stream()
                    .filter(p -> columns.get(p).generation().isEmpty())
                    .toList();
            List<Integer> uncounted = given.stream()
                    .filter(p -> columns.get(p).identity().isEmpty())
                    .toList();
            now = count == given.size() ? given : uncounted;
        }
        if (count != now.size()) {
            return false;
        }
        if (!now.equals(filled)) {
            filled = now;
            Arrays.fill(at, -1);
            for (int i = now.size() - 1; i >= 0; i--) {
                at[now.get(i)] = i;
            }
        }
        return true;
    }

    /** Which of the list's values is that of a column, by the column's place in the table; -1 for none. */
    int of(int column) {
        return at[column];
    }
}
