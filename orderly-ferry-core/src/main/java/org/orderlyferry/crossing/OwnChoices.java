package org.orderlyferry.crossing;

import java.util.Optional;
import java.util.OptionalLong;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.reconcile.Depth;

/**
 * What is chosen for one table otherwise than for the crossing.
 *
 * @param onto what is done if the target has it already; as the crossing says without it
 * @param proof how deeply it is compared in the end; likewise
 * @param rejectsAllowed how many of its records may be left out because they can't be taken; without it, they count among the
 *     crossing's
 */
@NullMarked
public record OwnChoices(Optional<LoadMode> onto, Optional<Depth> proof, OptionalLong rejectsAllowed) {

    /** All as the crossing says. */
    public static final OwnChoices NONE = new OwnChoices(Optional.empty(), Optional.empty(), OptionalLong.empty());
}
