package org.orderlyferry.tally;

import java.util.ArrayList;
import java.util.List;

/**
 * What was counted of a table.
 *
 * @param rows how many records
 * @param digest the sum of all records' hashes
 * @param columns in the order in which the records' hashes take them
 */
public record Tally(long rows, Digest digest, List<ColumnTally> columns) {
    public Tally {
        columns = List.copyOf(columns);
    }

    /** The tally of two parts of one table together. */
    public Tally plus(Tally other) {
        if (!isComparableTo(other)) {
            throw new IllegalArgumentException("two tallies add up only over the same columns in the same forms");
        }
        List<ColumnTally> sums = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            ColumnTally a = columns.get(i);
            ColumnTally b = other.columns.get(i);
            sums.add(new ColumnTally(
                    a.name(), a.form(), a.nulls() + b.nulls(), a.digest().plus(b.digest())));
        }
        return new Tally(rows + other.rows, digest.plus(other.digest), sums);
    }

    /** Whether both were taken over the same columns in the same forms, so that equal records give equal digests. */
    public boolean isComparableTo(Tally other) {
        if (columns.size() != other.columns.size()) {
            return false;
        }
        for (int i = 0; i < columns.size(); i++) {
            ColumnTally a = columns.get(i);
            ColumnTally b = other.columns.get(i);
            if (a.form() != b.form() || !a.name().equals(b.name())) {
                return false;
            }
        }
        return true;
    }
}
