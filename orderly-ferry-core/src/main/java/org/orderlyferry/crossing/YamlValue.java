package org.orderlyferry.crossing;

import java.util.List;
import java.util.Map;

/** A value of a YAML file, with where it stands. All scalars are texts. */
sealed interface YamlValue {

    /** The line, from 1. */
    int line();

    /** The column, from 1. */
    int column();

    /**
     * A text.
     *
     * @param text as the file has it
     * @param nothing whether the file says nothing by it, as with {@code null}
     */
    record Scalar(String text, boolean nothing, int line, int column) implements YamlValue {}

    record Sequence(List<YamlValue> values, int line, int column) implements YamlValue {}

    /**
     * A mapping, in its order.
     *
     * @param flow whether it is written in braces
     */
    record Mapping(Map<String, Entry> entries, int line, int column, boolean flow) implements YamlValue {}

    /** A key with its value. */
    record Entry(String key, int line, int column, YamlValue value) {}
}
