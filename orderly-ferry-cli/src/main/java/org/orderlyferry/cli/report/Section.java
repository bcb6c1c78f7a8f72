package org.orderlyferry.cli.report;

import java.util.ArrayList;
import java.util.List;

/**
 * A section of a report.
 *
 * @param id by which the table of contents finds it
 */
record Section(String id, String heading, List<Block> blocks) {

    static Section of(String id, String heading) {
        return new Section(id, heading, new ArrayList<>());
    }

    Section text(String text) {
        blocks.add(Block.text(text));
        return this;
    }

    Section grid(Grid grid) {
        if (!grid.isEmpty()) {
            blocks.add(Block.grid(grid));
        }
        return this;
    }

    Section chart(Chart chart) {
        blocks.add(Block.chart(chart));
        return this;
    }

    Section commands(String... lines) {
        blocks.add(Block.commands(lines));
        return this;
    }

    boolean isEmpty() {
        return blocks.isEmpty();
    }
}
