package org.orderlyferry.ledger;

import java.time.Instant;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.NullMarked;

/**
 * A line of a run's ledger: a fact.
 *
 * @param at when it was written
 * @param what which step
 * @param state what became of the step
 * @param facts about it, as texts
 */
@NullMarked
public record LedgerLine(Instant at, Step what, State state, Map<String, String> facts) {

    /** The steps of a run, and of what undoes it. */
    public enum Step {
        RUN,
        BACKUP,
        EXPORT,
        BEFORE,
        LOAD,
        DELETE,
        AFTER,
        PROOF,
        UNDO,
        /** A file that arrived. */
        ARRIVAL;

        /** As a ledger has it. */
        public String word() {
            return LedgerLine.word(this);
        }
    }

    /** What became of a step. */
    public enum State {
        BEGUN,
        DONE,
        /** It isn't to be gone on with. */
        GIVEN_UP;

        /** As a ledger has it. */
        public String word() {
            return LedgerLine.word(this);
        }
    }

    public LedgerLine {
        facts = Map.copyOf(facts);
    }

    private static String word(Enum<?> value) {
        return value.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** A fact; empty text where nothing is said of it. */
    public String fact(String name) {
        return facts.getOrDefault(name, "");
    }
}
