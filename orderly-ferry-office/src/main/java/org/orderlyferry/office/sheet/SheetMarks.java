package org.orderlyferry.office.sheet;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;

/**
 * What a sheet looks like to people, and its records don't: rows and columns that are hidden, and cells that are drawn as one, of
 * which only the first holds the value. What stands above a table's first record counts for nothing.
 */
public final class SheetMarks {

    /** What nobody asks for. */
    static final SheetMarks UNHEARD = new SheetMarks(Integer.MAX_VALUE, 0);

    /** How many of the file's places are named. */
    private static final int NAMED = 3;

    /** What spreadsheet programs have. */
    private static final long MOST_COLUMNS = 16_384;

    private final int headingRow;
    private final int lastRow;
    private long hidden;
    private long merged;
    private final BitSet hiddenColumns = new BitSet();
    private final List<String> named = new ArrayList<>();

    /**
     * Of a table.
     *
     * @param headingRow from 1; 0 where there is none
     * @param lastRow from 1
     */
    SheetMarks(int headingRow, int lastRow) {
        this.headingRow = headingRow;
        this.lastRow = lastRow;
    }

    /** Whether anybody asks. */
    public boolean isHeard() {
        return this != UNHEARD;
    }

    /**
     * Takes rows that are hidden.
     *
     * @param first from 1
     * @param times how many
     */
    public void hidden(long first, long times) {
        hidden += Math.max(0, Math.min(first + times - 1, lastRow) - Math.max(first, headingRow + 1L) + 1);
    }

    /**
     * Takes columns that are hidden.
     *
     * @param first from 1
     * @param last the last one
     */
    public void hiddenColumns(long first, long last) {
        if (first >= 1 && last >= first) {
            hiddenColumns.set((int) Math.min(first, MOST_COLUMNS), (int) Math.min(last, MOST_COLUMNS) + 1);
        }
    }

    /**
     * Takes cells that are drawn as one.
     *
     * @param first the first one's row, from 1
     * @param last the last one's row
     * @param columns how many places wide
     */
    public void merged(long first, long last, long columns) {
        if (last > headingRow && first <= lastRow && (last > first || columns > 1)) {
            merged++;
            if (named.size() < NAMED) {
                named.add(last > first ? first + "–" + last : Long.toString(first));
            }
        }
    }

    /** What is to be known of a table with so many columns. */
    List<Finding> findings(TableName table, int width) {
        List<Finding> findings = new ArrayList<>();
        int columns = hiddenColumns.get(1, width + 1).cardinality();
        if (columns > 0) {
            findings.add(Finding.of(
                    FindingCode.FORM_FOUND,
                    table,
                    (columns == 1 ? "1 column is" : columns + " columns are")
                            + " hidden from who opens the file; " + (columns == 1 ? "it is" : "they are")
                            + " read like the others"));
        }
        if (hidden > 0) {
            findings.add(Finding.of(
                    FindingCode.FORM_FOUND,
                    table,
                    (hidden == 1 ? "1 row is" : hidden + " rows are")
                            + " hidden, or filtered out, from who opens the file; "
                            + (hidden == 1 ? "it is" : "they are")
                            + " read like the others"));
        }
        if (merged > 0) {
            findings.add(Finding.of(
                    FindingCode.FORM_FOUND,
                    table,
                    (merged == 1 ? "in one place" : "in " + merged + " places")
                            + " several cells are drawn as one, in rows " + String.join(", ", named)
                            + (merged > named.size() ? " …" : "")
                            + "; only the first of them has a value, and the others are null"));
        }
        return findings;
    }
}
