package org.orderlyferry.databases.dialect;

import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
import java.util.BitSet;
import org.apiguardian.api.API;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.InvalidValueException;

/**
 * The characters that a coded character set has (its repertoire, in the words of ISO SQL), where these aren't all of
 * Unicode. Immutable.
 */
@API(status = API.Status.INTERNAL)
public final class Repertoire implements ValueLimit {

    private static final int ASCII = 0x80;

    /** The characters of the first plane, in which those of all sets lie that have fewer than Unicode. */
    private static final int FIRST_PLANE = 0x10000;

    private final String name;
    private final BitSet characters;
    private final boolean hasAscii;

    /**
     * One of a set.
     *
     * @param name of the set, as its system has it
     * @param characters by their code points
     */
    public Repertoire(String name, BitSet characters) {
        this.name = name;
        this.characters = (BitSet) characters.clone();
        this.hasAscii = characters.nextClearBit(1) >= ASCII;
    }

    /** That of a set which Java has as well. */
    public static Repertoire of(String name, Charset charset) {
        CharsetEncoder encoder = charset.newEncoder();
        BitSet characters = new BitSet(FIRST_PLANE);
        for (int c = 0; c < FIRST_PLANE; c++) {
            characters.set(c, !Character.isSurrogate((char) c) && encoder.canEncode((char) c));
        }
        return new Repertoire(name, characters);
    }

    /** All characters of the first plane: those that are no pair in UTF-16. */
    public static Repertoire ofFirstPlane(String name) {
        BitSet characters = new BitSet(FIRST_PLANE);
        characters.set(0, FIRST_PLANE);
        return new Repertoire(name, characters);
    }

    @Override
    public void check(Records batch, int row, int column) throws InvalidValueException {
        byte[] bytes = batch.bytes();
        int end = batch.end(row, column);
        for (int i = batch.start(row, column); i < end; i++) {
            // what begins a character of several bytes is negative, and most texts have none
            if (bytes[i] < 0 || !hasAscii) {
                look(batch.text(row, column));
                return;
            }
        }
    }

    private void look(String text) throws InvalidValueException {
        for (int i = 0; i < text.length(); ) {
            int character = text.codePointAt(i);
            if (!characters.get(character)) {
                throw new InvalidValueException("holds " + Character.toString(character)
                        + String.format(java.util.Locale.ROOT, " (U+%04X)", character) + ", a character that " + name
                        + " hasn't");
            }
            i += Character.charCount(character);
        }
    }
}
