package org.orderlyferry.cli;

import java.util.Locale;

/** When colours are used. */
public enum Colour {
    /** Where a terminal shows them. */
    AUTO,
    /** In files and pipes too. */
    ALWAYS,
    /** Nowhere. */
    NEVER;

    private static final String OPTION = "--color";

    /**
     * What the command line says of it. It has to be known before the command line is taken apart, since that may go wrong and
     * be told in colours.
     */
    Colour or(String... arguments) {
        Colour said = this;
        for (int i = 0; i < arguments.length; i++) {
            if (arguments[i].startsWith(OPTION + "=")) {
                said = said.of(arguments[i].substring(OPTION.length() + 1));
            } else if (arguments[i].equals(OPTION) && i + 1 < arguments.length) {
                said = said.of(arguments[i + 1]);
            }
        }
        return said;
    }

    /** A word that is none is told of when the command line is taken apart. */
    private Colour of(String word) {
        for (Colour one : values()) {
            if (one.name().toLowerCase(Locale.ROOT).equals(word.toLowerCase(Locale.ROOT))) {
                return one;
            }
        }
        return this;
    }

    boolean on(boolean terminal) {
        return this == ALWAYS || this == AUTO && terminal;
    }
}
