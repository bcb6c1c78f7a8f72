package org.orderlyferry.report;

import java.time.Instant;
import org.jspecify.annotations.NullMarked;

/**
 * Something that happened on the way, apart from the steps: a process that was killed, one that went on, a catch-up.
 *
 * @param at when
 * @param text what, in one sentence
 */
@NullMarked
public record RecordedEvent(Instant at, String text) {
    public RecordedEvent {
        at = at == null ? Instant.EPOCH : at;
        text = Bounded.text(text);
    }
}
