package org.orderlyferry.cli.report;

import java.util.List;

/**
 * A part of a section: one of these, the others null.
 *
 * @param text a paragraph
 * @param grid a table
 * @param chart a drawing
 * @param commands lines for a shell
 */
record Block(String text, Grid grid, Chart chart, List<String> commands) {

    static Block text(String text) {
        return new Block(text, null, null, null);
    }

    static Block grid(Grid grid) {
        return new Block(null, grid, null, null);
    }

    static Block chart(Chart chart) {
        return new Block(null, null, chart, null);
    }

    static Block commands(String... lines) {
        return new Block(null, null, null, List.of(lines));
    }

    /** Whether there are commands; a template takes a list for each of its lines. */
    boolean shell() {
        return commands != null;
    }
}
