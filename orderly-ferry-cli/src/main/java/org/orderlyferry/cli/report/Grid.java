package org.orderlyferry.cli.report;

import java.util.ArrayList;
import java.util.List;

/**
 * A table of a report.
 *
 * @param caption what it is of
 * @param headings of its columns
 * @param rows its lines
 */
record Grid(String caption, List<Heading> headings, List<Row> rows) {

    /**
     * A column's heading.
     *
     * @param text what it says
     * @param figure whether the column's cells are numbers
     */
    record Heading(String text, boolean figure) {}

    /** A line. */
    record Row(List<Cell> cells) {}

    /** Begins one. */
    static Grid of(String caption) {
        return new Grid(caption, new ArrayList<>(), new ArrayList<>());
    }

    Grid left(String heading) {
        headings.add(new Heading(heading, false));
        return this;
    }

    Grid right(String heading) {
        headings.add(new Heading(heading, true));
        return this;
    }

    Grid row(Cell... cells) {
        return row(List.of(cells));
    }

    Grid row(List<Cell> cells) {
        rows.add(new Row(List.copyOf(cells)));
        return this;
    }

    /** Without the columns that say nothing in any line. */
    Grid withoutEmptyColumns() {
        Grid full = Grid.of(caption);
        List<Integer> kept = new ArrayList<>();
        for (int i = 0; i < headings.size(); i++) {
            int column = i;
            if (rows.stream().anyMatch(r -> !r.cells().get(column).text().isEmpty())) {
                kept.add(i);
                full.headings.add(headings.get(i));
            }
        }
        rows.forEach(r -> full.row(kept.stream().map(r.cells()::get).toList()));
        return full;
    }

    /** Classes that say which columns are numbers, once for all of their cells; null for none. */
    String figures() {
        List<String> classes = new ArrayList<>();
        for (int i = 0; i < headings.size(); i++) {
            if (headings.get(i).figure()) {
                classes.add("n" + (i + 1));
            }
        }
        return classes.isEmpty() ? null : String.join(" ", classes);
    }

    boolean isEmpty() {
        return rows.isEmpty();
    }
}
