package org.orderlyferry.cli;

import java.util.regex.Pattern;

/** An argument in a command that is shown to be copied: a shell must not take it for several, or for anything else. */
final class Argument {

    private static final Pattern PLAIN = Pattern.compile("[\\p{L}\\p{N}_./:=@%+,-]+");

    private Argument() {}

    /** The text as a POSIX shell takes it: as it is, or in single quotes. */
    static String of(Object value) {
        String text = value.toString();
        return PLAIN.matcher(text).matches() ? text : "'" + text.replace("'", "'\\''") + "'";
    }
}
