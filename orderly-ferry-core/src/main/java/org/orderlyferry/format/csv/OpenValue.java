package org.orderlyferry.format.csv;

/**
 * Follows a value over chunks that are read behind it, as long as they can't hold its end: one without quotes goes on to the next
 * mark, and in one with quotes a quote is a part of the value only in front of another one.
 */
final class OpenValue {

    private enum State {
        UNKNOWN,
        PLAIN,
        QUOTED
    }

    private final byte quote;
    private State state = State.UNKNOWN;
    private boolean sawQuote;

    OpenValue(byte quote) {
        this.quote = quote;
    }

    /** Nothing is known of where reading ended. */
    void forget() {
        state = State.UNKNOWN;
    }

    /** Reading ended in a value without quotes. */
    void plain() {
        state = State.PLAIN;
    }

    /** Reading ended in a quoted value, with no quote in the last place. */
    void quoted() {
        state = State.QUOTED;
        sawQuote = false;
    }

    /** Whether the value surely goes on. */
    boolean isSure() {
        return state != State.UNKNOWN;
    }

    /** The chunk that comes next. */
    void follow(Chunk next) {
        if (state == State.PLAIN && (next.marks == null || next.count > 0)) {
            state = State.UNKNOWN;
        }
        for (int i = next.start; state == State.QUOTED && i < next.end; i++) {
            if (next.bytes[i] == quote) {
                sawQuote = !sawQuote;
            } else if (sawQuote) {
                state = State.UNKNOWN;
            }
        }
    }
}
