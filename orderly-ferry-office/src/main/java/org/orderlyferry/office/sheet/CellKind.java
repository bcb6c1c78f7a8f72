package org.orderlyferry.office.sheet;

/** What a cell holds, in the words of the file. */
public enum CellKind {
    NOTHING,
    NUMBER,
    DAY,
    TIME,
    MOMENT,
    TRUTH,
    TEXT,
    /** No value: an error of the spreadsheet, or a formula without a result. */
    ERROR
}
