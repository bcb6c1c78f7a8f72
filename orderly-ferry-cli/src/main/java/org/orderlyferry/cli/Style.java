package org.orderlyferry.cli;

/**
 * Colours, where there is a terminal that shows them.
 *
 * @param on whether to use them
 */
record Style(boolean on) {

    private String coded(String code, String text) {
        return on ? "\u001b[" + code + "m" + text + "\u001b[0m" : text;
    }

    String strong(String text) {
        return coded("1", text);
    }

    String faint(String text) {
        return coded("2", text);
    }

    String good(String text) {
        return coded("32", text);
    }

    String warning(String text) {
        return coded("33", text);
    }

    String bad(String text) {
        return coded("31", text);
    }
}
