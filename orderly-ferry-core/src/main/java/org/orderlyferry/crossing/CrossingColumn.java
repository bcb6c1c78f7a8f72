package org.orderlyferry.crossing;

import java.util.Objects;
import org.jspecify.annotations.NullMarked;

/**
 * A column on its way.
 *
 * @param name at the source
 * @param to its name at the target
 * @param type its type on the way, for example {@code DECIMAL(12,2)}; the target has what it calls that
 */
@NullMarked
public record CrossingColumn(String name, String to, String type) {
    public CrossingColumn {
        Objects.requireNonNull(name, "name");
        Objects.requireNonNull(to, "to");
        Objects.requireNonNull(type, "type");
    }
}
