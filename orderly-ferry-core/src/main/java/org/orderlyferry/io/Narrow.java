package org.orderlyferry.io;

import java.nio.CharBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CharsetEncoder;
import java.util.Locale;
import org.apiguardian.api.API;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;

/** Asks each value for what a file's encoding has no character for, while the value's record is still known. */
@API(status = API.Status.INTERNAL)
public final class Narrow {

    private final Charset encoding;
    private final CharsetEncoder encoder;
    private final CharsetDecoder decoder;
    private final boolean isUnicode;

    /** Of an encoding. */
    public Narrow(Charset encoding) {
        this.encoding = encoding;
        this.encoder = encoding.newEncoder();
        this.decoder = encoding.newDecoder();
        this.isUnicode = encoding.name().startsWith("UTF-");
    }

    /** Refuses text with a character that the encoding doesn't have. */
    public void mustHold(String value, Origin origin, String column) {
        if (isUnicode || holds(value)) {
            return;
        }
        String lost = value.codePoints()
                .mapToObj(Character::toString)
                .filter(c -> !holds(c))
                .findFirst()
                .orElse("?");
        throw new BadValueException(
                origin,
                column,
                value,
                "can't be written in " + encoding.name() + ", which has no " + lost
                        + String.format(Locale.ROOT, " (U+%04X)", lost.codePointAt(0)) + "; choose UTF-8");
    }

    /** Some encodings have one byte for two characters, such as both line ends of EBCDIC. */
    private boolean holds(String text) {
        try {
            return decoder.decode(encoder.encode(CharBuffer.wrap(text)))
                    .toString()
                    .equals(text);
        } catch (CharacterCodingException e) {
            return false;
        }
    }
}
