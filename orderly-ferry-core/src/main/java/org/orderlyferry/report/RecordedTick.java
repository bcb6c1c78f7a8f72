package org.orderlyferry.report;

import org.jspecify.annotations.NullMarked;
import org.orderlyferry.reconcile.TickedThing;

/**
 * Something that no load carries.
 *
 * @param made whether the target has one of this kind and name by now
 */
@NullMarked
public record RecordedTick(String kind, String name, String reason, boolean made) {
    public RecordedTick {
        kind = Bounded.text(kind);
        name = Bounded.text(name);
        reason = Bounded.text(reason);
    }

    static RecordedTick of(TickedThing ticked) {
        return new RecordedTick(
                ticked.thing().kind(), ticked.thing().name(), ticked.thing().reason(), ticked.made());
    }
}
