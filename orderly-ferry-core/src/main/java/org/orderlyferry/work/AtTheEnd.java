package org.orderlyferry.work;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.place.Removal;

/**
 * What is done in one with the end of a load.
 *
 * @param removals what goes out of tables that stay
 * @param keep the name by which tables are kept that are replaced; empty where they go
 */
record AtTheEnd(List<Removal> removals, Optional<String> keep) {

    static final AtTheEnd NOTHING = new AtTheEnd(List.of(), Optional.empty());

    AtTheEnd {
        removals = List.copyOf(removals);
    }
}
