package org.orderlyferry.cli;

import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** An argument in a command that is shown to be copied: a shell must not take it for several, or for anything else. */
public final class Argument {

    private static final Pattern PLAIN = Pattern.compile("[\\p{L}\\p{N}_./:=@%+,-]+");

    private Argument() {}

    /** The text as a POSIX shell takes it: as it is, or in single quotes. */
    public static String of(Object value) {
        String text = value.toString();
        return PLAIN.matcher(text).matches() ? text : "'" + text.replace("'", "'\\''") + "'";
    }

    /** Several, with blanks between them. */
    public static String all(List<String> arguments) {
        return arguments.stream().map(Argument::of).collect(Collectors.joining(" "));
    }
}
