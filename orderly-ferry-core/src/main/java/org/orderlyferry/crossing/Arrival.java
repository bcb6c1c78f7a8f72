package org.orderlyferry.crossing;

import java.time.Instant;
import org.jspecify.annotations.NullMarked;

/**
 * What became of a file that arrived.
 *
 * @param at when that was decided
 * @param file its name
 * @param content the SHA-256 of its content, in hexadecimal
 * @param rows how many records it has; 0 where nobody could tell
 * @param state what became of it
 * @param why why it was refused; else empty
 */
@NullMarked
public record Arrival(Instant at, String file, String content, long rows, State state, String why) {

    /** What became of it. */
    public enum State {
        /** Its records are in. */
        TAKEN,
        /** Nothing of it is. */
        REFUSED,
        /** Its content was taken before, and isn't taken twice. */
        KNOWN,
        /** It isn't whole yet. */
        GROWING
    }
}
