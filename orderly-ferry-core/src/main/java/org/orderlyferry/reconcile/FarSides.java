package org.orderlyferry.reconcile;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.work.RemoteEngine;
import org.orderlyferry.work.TallyWork;
import org.orderlyferry.work.WorkSite;

/**
 * Who reads both sides in place of this process.
 *
 * @param source how the source is opened there
 * @param target how the target is
 * @param before how what the target had before is
 */
record FarSides(RemoteEngine engine, WorkSite source, WorkSite target, Optional<WorkSite> before) {

    /** Has the sides read there, in the order in which they are told here. */
    void read(List<TallyWork> sides) {
        sides.get(0).elsewhere(engine, source);
        sides.get(1).elsewhere(engine, target);
        if (sides.size() > 2) {
            sides.get(2).elsewhere(engine, before.orElseThrow());
        }
    }
}
