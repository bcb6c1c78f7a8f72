package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;
import org.orderlyferry.model.Finding;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Place;

/**
 * All hands that read a place at once.
 *
 * @param all at least one
 * @param findings why there are fewer than asked for
 */
record Hands(Place source, List<Hand> all, List<Finding> findings) implements AutoCloseable {

    /** Makes ready for so many, or as many as the place can give; to be asked before anything is read of it. */
    static Hands into(Place source, int lanes) {
        Companions companions = lanes > 1 ? source.companions(lanes) : Companions.NONE;
        List<Hand> all = new ArrayList<>();
        companions.places().forEach(p -> all.add(new Hand(source, p)));
        if (all.isEmpty()) {
            all.add(new Hand(source, source));
        }
        return new Hands(source, all, companions.findings());
    }

    /** How many ways into the source are open, the first one included. */
    int connections() {
        Set<Place> ways = Collections.newSetFromMap(new IdentityHashMap<>());
        ways.add(source);
        all.forEach(h -> ways.add(h.place()));
        return ways.size();
    }

    @Override
    public void close() {
        all.forEach(Hand::close);
    }
}
