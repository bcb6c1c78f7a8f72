package org.orderlyferry.report;

import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.LeftBehind;

/**
 * Something of the source that couldn't be carried.
 *
 * @param kind what it is, in the system's words
 * @param name what it is called
 * @param reason why it stays
 */
@NullMarked
public record RecordedThing(String kind, String name, String reason) {
    public RecordedThing {
        kind = Bounded.text(kind);
        name = Bounded.text(name);
        reason = Bounded.text(reason);
    }

    boolean isOfRecords() {
        return new LeftBehind(kind, name, reason).isOfRecords();
    }

    static RecordedThing of(LeftBehind thing) {
        return new RecordedThing(thing.kind(), thing.name(), thing.reason());
    }
}
