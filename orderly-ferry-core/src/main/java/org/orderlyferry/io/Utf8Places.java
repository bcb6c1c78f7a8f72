package org.orderlyferry.io;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.Optional;
import org.apiguardian.api.API;

/** At which bytes of a text in UTF-8 stands what a parser tells of in units of UTF-16. */
@API(status = API.Status.INTERNAL)
public final class Utf8Places {

    private Utf8Places() {}

    /**
     * Reads a text from its first byte to its last.
     *
     * @param text the text
     * @param units how many units of UTF-16 stand before each of the characters, in ascending order
     * @param expected the character of ASCII that each of them is
     * @param copy where the text's bytes go as well
     * @return how many bytes stand before each; empty if another character stands at one of them, or none
     */
    public static Optional<long[]> find(InputStream text, long[] units, char expected, OutputStream copy)
            throws IOException {
        long[] places = new long[units.length];
        int found = 0;
        long unit = 0;
        long place = 0;
        byte[] buffer = new byte[64 * 1024];
        for (int read = text.read(buffer); read >= 0; read = text.read(buffer)) {
            for (int i = 0; i < read; i++, place++) {
                byte b = buffer[i];
                if ((b & 0xC0) == 0x80) {
                    // goes on with a character
                    continue;
                }
                while (found < units.length && unit == units[found]) {
                    if (b != expected) {
                        return Optional.empty();
                    }
                    places[found++] = place;
                }
                unit += (b & 0xF8) == 0xF0 ? 2 : 1;
            }
            copy.write(buffer, 0, read);
        }
        return found == units.length ? Optional.of(places) : Optional.empty();
    }
}
