package org.orderlyferry.cli.report;

/**
 * A cell of a grid.
 *
 * @param text what it says
 * @param look how it is meant: {@code good}, {@code bad}, {@code code}, {@code sum}, or nothing
 */
record Cell(String text, String look) {

    static Cell of(String text) {
        return new Cell(text, "");
    }

    static Cell good(String text) {
        return new Cell(text, "good");
    }

    static Cell bad(String text) {
        return new Cell(text, "bad");
    }

    static Cell code(String text) {
        return new Cell(text, "code");
    }

    /** A checksum or digest. */
    static Cell sum(String text) {
        return new Cell(text, "sum");
    }

    /** Whether it is meant in some way. */
    boolean meant() {
        return !look.isEmpty();
    }
}
