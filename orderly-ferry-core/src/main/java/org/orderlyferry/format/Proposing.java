package org.orderlyferry.format;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.NullMarked;

/**
 * What a person has decided about definitions that are proposed from values.
 *
 * @param key the columns of the primary key; empty list for none; nothing where the values are to tell
 * @param tight whether types have no more room than the values that were seen need
 */
@NullMarked
public record Proposing(Optional<List<String>> key, boolean tight) {

    public static final Proposing DEFAULT = new Proposing(Optional.empty(), false);

    /** The names of what is decided; none where nothing is. */
    public List<String> told() {
        return Stream.of(key.map(k -> "key"), tight ? Optional.of("tight-types") : Optional.<String>empty())
                .flatMap(Optional::stream)
                .toList();
    }
}
