package org.orderlyferry.format;

import java.util.List;
import org.jspecify.annotations.NullMarked;

/**
 * What a format keeps, as it is told to people.
 *
 * @param definitions how definitions are carried
 * @param nulls how null and empty text are kept apart
 * @param values what becomes of values
 * @param losses what it can't hold; each a sentence
 */
@NullMarked
public record Keeps(String definitions, String nulls, String values, List<String> losses) {
    public Keeps {
        losses = List.copyOf(losses);
    }
}
