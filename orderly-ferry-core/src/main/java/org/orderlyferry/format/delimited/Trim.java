package org.orderlyferry.format.delimited;

import java.util.Locale;
import org.orderlyferry.problem.UsageException;

/** From which ends of a value blanks are taken, in the words of W3C CSV on the Web. */
enum Trim {
    FALSE,
    START,
    END,
    TRUE;

    static Trim of(String text) {
        for (Trim trim : values()) {
            if (trim.name().toLowerCase(Locale.ROOT).equals(text)) {
                return trim;
            }
        }
        throw new UsageException("trim is true, false, start or end, not '" + text + "'");
    }

    boolean takesFirst() {
        return this == START || this == TRUE;
    }

    boolean takesLast() {
        return this == END || this == TRUE;
    }

    String trimmed(String text) {
        String start = takesFirst() ? text.stripLeading() : text;
        return takesLast() ? start.stripTrailing() : start;
    }
}
