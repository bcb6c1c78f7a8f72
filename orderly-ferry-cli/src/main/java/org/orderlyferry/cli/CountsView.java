package org.orderlyferry.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import org.orderlyferry.report.TableCounts;

/** The counts of tables at every hop, for the terminal: only those that somebody has counted. */
final class CountsView {

    private CountsView() {}

    /** A hop. */
    private record Hop(String heading, Function<TableCounts, Long> count, boolean unlessNone) {
        boolean isSaid(List<TableCounts> tables) {
            return tables.stream().map(count).anyMatch(n -> n != null && (!unlessNone || n != 0));
        }
    }

    private static final List<Hop> HOPS = List.of(
            new Hop("source", TableCounts::source, false),
            new Hop("read", TableCounts::read, false),
            new Hop("rejected", TableCounts::rejected, true),
            new Hop("left out", TableCounts::leftOut, true),
            new Hop("in files", TableCounts::written, false),
            new Hop("read again", TableCounts::readFromSet, false),
            new Hop("loaded", TableCounts::loaded, false),
            new Hop("before", TableCounts::before, true),
            new Hop("target", TableCounts::target, false));

    static TextTable of(List<TableCounts> tables) {
        List<Hop> hops = HOPS.stream().filter(h -> h.isSaid(tables)).toList();
        TextTable text = new TextTable().left("table");
        hops.forEach(h -> text.right(h.heading()));
        for (TableCounts table : tables) {
            List<String> cells = new ArrayList<>(List.of(table.table()));
            for (Hop hop : hops) {
                Long count = hop.count().apply(table);
                cells.add(count == null ? "–" : Amounts.count(count));
            }
            text.row(cells.toArray(String[]::new));
        }
        return text;
    }
}
