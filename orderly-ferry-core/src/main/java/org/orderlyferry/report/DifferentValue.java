package org.orderlyferry.report;

import com.fasterxml.jackson.annotation.JsonInclude;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * A column of a record on both sides.
 *
 * @param source the value at the source, or null
 * @param target the value at the target, or null
 */
@NullMarked
@JsonInclude(JsonInclude.Include.NON_NULL)
public record DifferentValue(String column, @Nullable String source, @Nullable String target) {
    public DifferentValue {
        column = Bounded.text(column);
        source = Bounded.value(source);
        target = Bounded.value(target);
    }
}
