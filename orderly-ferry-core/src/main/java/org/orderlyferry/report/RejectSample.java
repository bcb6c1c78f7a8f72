package org.orderlyferry.report;

import com.fasterxml.jackson.annotation.JsonInclude;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * A record that was rejected.
 *
 * @param file where it came from
 * @param line in the file, or the number of the record
 * @param value that was refused; null where none alone was
 * @param key by which it can be found, where it doesn't come from a file; null where that isn't known
 */
@NullMarked
@JsonInclude(JsonInclude.Include.NON_NULL)
public record RejectSample(String file, long line, @Nullable String value, @Nullable String key) {
    public RejectSample {
        file = Bounded.text(file);
        value = Bounded.value(value);
        key = Bounded.value(key);
    }
}
