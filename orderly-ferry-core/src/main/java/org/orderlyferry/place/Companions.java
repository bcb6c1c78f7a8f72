package org.orderlyferry.place;

import java.util.List;
import org.orderlyferry.model.Finding;

/**
 * Further ways into a place, which see the very state that the first one sees.
 *
 * @param places to be closed by who asked for them; fewer than asked for where the place can't give more
 * @param findings why there are fewer
 */
public record Companions(List<Place> places, List<Finding> findings) {

    public static final Companions NONE = new Companions(List.of(), List.of());
}
