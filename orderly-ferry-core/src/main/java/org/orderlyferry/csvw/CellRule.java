package org.orderlyferry.csvw;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.format.ValueStyle;

/**
 * How cells of a column are to be read where CSVW says more than a datatype.
 *
 * @param nulls the words for null that are the column's own; empty where the file's hold
 * @param otherwise what stands for an empty cell ({@code default})
 * @param separator what stands between the values of a cell that holds several
 * @param elements how those values are written
 */
public record CellRule(
        Optional<List<String>> nulls, Optional<String> otherwise, Optional<String> separator, ValueStyle elements) {

    public CellRule {
        nulls = nulls.map(List::copyOf);
    }

    boolean saysNothing() {
        return nulls.isEmpty() && otherwise.isEmpty() && separator.isEmpty();
    }
}
