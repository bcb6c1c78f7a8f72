package org.orderlyferry.record.text;

import org.apiguardian.api.API;

/** The letters of ASCII in both cases; some systems take these for the same, and no others. */
@API(status = API.Status.INTERNAL)
public final class AsciiCase {

    private AsciiCase() {}

    /** A text with the capitals of ASCII as small letters. */
    public static String small(String text) {
        StringBuilder small = new StringBuilder(text.length());
        text.chars().forEach(c -> small.append((char) small(c)));
        return small.toString();
    }

    /** A character likewise. */
    public static int small(int character) {
        return character >= 'A' && character <= 'Z' ? character - 'A' + 'a' : character;
    }
}
