package org.orderlyferry.record.apart;

import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * How values of one kind, a file's or a store's, stand inside of each other.
 *
 * @param <V> such a value
 */
public interface Nesting<V> {

    /** Whether a value holds named ones that may stand alone; a typed wrapper is one value. */
    boolean isObject(V value);

    /** Whether it is a list. */
    boolean isList(V value);

    /** What an object holds, in its order. */
    Iterable<Map.Entry<String, V>> fields(V object);

    /** What an object holds by a name; null where it has no such field. */
    @Nullable
    V field(V object, String name);

    /** What a list holds. */
    Iterable<V> elements(V list);

    /** Whether records can be known by a value. */
    boolean isKey(V value);

    /** A text as such a value. */
    V text(String text);

    /** A number as such a value. */
    V number(long number);
}
