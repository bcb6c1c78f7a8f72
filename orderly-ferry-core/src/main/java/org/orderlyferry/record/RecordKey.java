package org.orderlyferry.record;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;

/** Which values of a record tell it apart from the others, for people who have to find it. Immutable. */
final class RecordKey {

    /** Nothing tells records apart. */
    static final RecordKey NONE = new RecordKey(List.of(), List.of());

    private final List<String> names;
    private final List<Integer> places;

    private RecordKey(List<String> names, List<Integer> places) {
        this.names = names;
        this.places = places;
    }

    /** A table's primary key, if all its columns are read. */
    static RecordKey of(TableDefinition table) {
        List<String> key = table.primaryKey().map(Key::columns).orElse(List.of());
        List<String> read = table.columnNames();
        return read.containsAll(key)
                ? new RecordKey(key, key.stream().map(read::indexOf).toList())
                : NONE;
    }

    /** Gives a value as text. */
    @FunctionalInterface
    interface Cells {

        /** A value; null for a null. */
        @Nullable
        String text(int place);
    }

    /** The key of a record: {@code no = 7, shelf = 'B 2'}. */
    String of(Cells cells) {
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            String value = cells.text(places.get(i));
            boolean plain = value != null && value.matches("[\\w.:+-]{1,40}");
            parts.add(names.get(i) + " = " + (plain ? value : BadValueException.shown(value)));
        }
        return String.join(", ", parts);
    }

    /** Whether the first so many values of a record are enough. */
    boolean isIn(int values) {
        return places.stream().allMatch(p -> p < values);
    }
}
