package org.orderlyferry.place;

import java.util.LinkedHashMap;
import java.util.Map;

/**
 * What was found of a column in a place whose records are each of their own form.
 *
 * @param types how many values of which type there are, by the system's own words, the most frequent first; nulls among them
 * @param absent in how many records it isn't there at all
 * @param longest characters of its longest text; 0 where there is none
 */
public record FieldCounts(Map<String, Long> types, long absent, int longest) {
    public FieldCounts {
        types = java.util.Collections.unmodifiableMap(new LinkedHashMap<>(types));
    }
}
