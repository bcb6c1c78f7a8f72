package org.orderlyferry.crossing;

import java.util.List;
import java.util.Map;

/** A value of a YAML file, with where it stands. All scalars are texts. */
sealed interface YamlValue {

    /** The line, from 1. */
    int line();

    /** The column, from 1. */
    int column();

    /** A text; null where the file says nothing, or {@code null}. */
    record Scalar(String text, int line, int column) implements YamlValue {}

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
