package org.orderlyferry.cli;

/**
 * Colours, where there is a terminal that shows them. In a text they stand as marks that no text has (characters that
 * Unicode keeps for the inside of a program), until it is printed: so nothing but this class can colour anything.
 *
 * @param on whether to use them
 */
record Style(boolean on) {

    private static final char FIRST = '\uFDD0';
    private static final char END = '\uFDDF';
    private static final String[] CODES = {"1", "2", "32", "33", "31"};

    private String coded(int code, String text) {
        return on ? (char) (FIRST + code) + text + END : text;
    }

    String strong(String text) {
        return coded(0, text);
    }

    String faint(String text) {
        return coded(1, text);
    }

    String good(String text) {
        return coded(2, text);
    }

    String warning(String text) {
        return coded(3, text);
    }

    String bad(String text) {
        return coded(4, text);
    }

    /** A text without its marks. */
    static String bare(String text) {
        return text.chars().noneMatch(c -> c >= FIRST && c <= END) ? text : text.replaceAll("[\uFDD0-\uFDDF]", "");
    }

    /** What is printed: the marks as a terminal's codes, and nothing else that a terminal obeys. */
    String printed(String text) {
        String shown = Escapes.shown(text);
        if (!on) {
            return bare(shown);
        }
        StringBuilder printed = new StringBuilder(shown.length() + 16);
        for (int i = 0; i < shown.length(); i++) {
            char c = shown.charAt(i);
            if (c >= FIRST && c < FIRST + CODES.length) {
                printed.append("\u001b[").append(CODES[c - FIRST]).append('m');
            } else if (c == END) {
                printed.append("\u001b[0m");
            } else {
                printed.append(c);
            }
        }
        return printed.toString();
    }
}
