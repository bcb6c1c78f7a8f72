package org.orderlyferry.record.apart;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Takes a record apart: what stands in objects inside of it becomes columns of its own, named by paths
 * ({@code address.city}); each list becomes records of a table of its own, with a key back to the record that it was in.
 * Immutable.
 *
 * @param <V> a value
 */
public final class Apart<V> {

    /** Behind the name of a table stands the path of the list that it holds. */
    public static final char LIST = '_';

    /** The column of a list's table that holds the key of the record that the list was in. */
    public static final String PARENT = "parent";

    /** The column of a list's table that holds the element's place, from 1. */
    public static final String PLACE = "place";

    /** The column of a list's table that holds an element that is no object. */
    public static final String VALUE = "value";

    /** The column of a record that has no key, to which its lists refer: its number in the file, from 1. */
    public static final String NUMBER = "record number";

    private static final Pattern OURS = Pattern.compile("(" + PARENT + "|" + PLACE + "|" + VALUE + ")_*");

    private final Nesting<V> nesting;
    private final String keyName;
    private final boolean keyed;

    /**
     * Takes records apart.
     *
     * @param keyName the field that is a record's key; where a record has none, its number is
     * @param keyed whether records stand by their keys, which are then values of that field
     */
    public Apart(Nesting<V> nesting, String keyName, boolean keyed) {
        this.nesting = nesting;
        this.keyName = keyName;
        this.keyed = keyed;
    }

    /** The field that is a record's key. */
    public String keyName() {
        return keyName;
    }

    /** Whether a record has a key to which its lists can refer. */
    public boolean hasKey(V record, @Nullable String key) {
        V own = nesting.field(record, keyName);
        return keyed && key != null || own != null && nesting.isKey(own);
    }

    /**
     * A record of one of the tables.
     *
     * @param list the path of the list that it was in; empty for the record that was taken apart
     * @param fields what it holds; a name may come twice where a record has it so
     */
    public record Part<V>(String list, List<Map.Entry<String, V>> fields) {}

    /**
     * All records that a record makes: itself, and those of its lists.
     *
     * @param standsBy what it stands by; null where records don't
     * @param number its number, from 1
     */
    public List<Part<V>> parts(V record, @Nullable String standsBy, long number) {
        List<Part<V>> parts = new ArrayList<>();
        List<Map.Entry<String, V>> own = new ArrayList<>();
        parts.add(new Part<>("", own));
        boolean byKey = keyed && standsBy != null;
        V key;
        if (byKey) {
            key = nesting.text(standsBy);
            own.add(Map.entry(keyName, key));
        } else if (hasKey(record, standsBy)) {
            key = nesting.field(record, keyName);
        } else {
            key = nesting.number(number);
            own.add(Map.entry(NUMBER, key));
        }
        for (Map.Entry<String, V> field : nesting.fields(record)) {
            if (field.getValue() == key) {
                own.add(field);
            } else {
                value(field.getKey(), field.getValue(), (path, value) -> {
                    if (nesting.isList(value)) {
                        list(path, value, key, parts);
                    } else {
                        own.add(Map.entry(path, value));
                    }
                });
            }
        }
        return parts;
    }

    /**
     * The column of a list's table for a field of its elements: one that has the name of a column of ours gets an underscore at
     * its end, and so does one that would look so.
     */
    public static String column(String field) {
        return OURS.matcher(field).matches() ? field + '_' : field;
    }

    /** The field of a list's elements that is in a column; see {@link #column}. */
    public static String field(String column) {
        return column.endsWith("_") && OURS.matcher(column).matches()
                ? column.substring(0, column.length() - 1)
                : column;
    }

    private void value(String path, V value, BiConsumer<String, V> sink) {
        boolean empty = true;
        if (nesting.isObject(value)) {
            for (Map.Entry<String, V> field : nesting.fields(value)) {
                empty = false;
                value(path + "." + field.getKey(), field.getValue(), sink);
            }
        }
        if (empty) {
            sink.accept(path, value);
        }
    }

    private void list(String path, V list, V parent, List<Part<V>> parts) {
        long place = 0;
        for (V element : nesting.elements(list)) {
            List<Map.Entry<String, V>> fields = new ArrayList<>();
            fields.add(Map.entry(PARENT, parent));
            fields.add(Map.entry(PLACE, nesting.number(++place)));
            if (nesting.isObject(element)) {
                // a list inside of a list stays JSON
                for (Map.Entry<String, V> field : nesting.fields(element)) {
                    value(
                            field.getKey(),
                            field.getValue(),
                            (name, value) -> fields.add(Map.entry(column(name), value)));
                }
            } else {
                fields.add(Map.entry(VALUE, element));
            }
            parts.add(new Part<>(path, fields));
        }
    }
}
