package org.orderlyferry.format.csv;

import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;

/** Asks each value for what a file's encoding has no character for, while the value's record is still known. */
final class Narrow {

    private final Charset encoding;
    private final CharsetEncoder encoder;
    private final boolean isUnicode;

    Narrow(Charset encoding) {
        this.encoding = encoding;
        this.encoder = encoding.newEncoder();
        this.isUnicode = encoding.name().startsWith("UTF-");
    }

    /** Refuses text with a character that the encoding doesn't have. */
    void mustHold(String value, Origin origin, String column) {
        if (isUnicode || encoder.canEncode(value)) {
            return;
        }
        String lost = value.codePoints()
                .mapToObj(Character::toString)
                .filter(c -> !encoder.canEncode(c))
                .findFirst()
                .orElse("?");
        throw new BadValueException(
                origin,
                column,
                value,
                "can't be written in " + encoding.name() + ", which has no " + lost
                        + String.format(" (U+%04X)", lost.codePointAt(0)) + "; choose UTF-8");
    }
}
