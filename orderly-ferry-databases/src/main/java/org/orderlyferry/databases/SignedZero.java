package org.orderlyferry.databases;

import org.orderlyferry.model.TableName;

/** Notes a negative zero that a system makes a plain one of; both are equal numbers, but not the same bits. */
public final class SignedZero {

    private SignedZero() {}

    /** Notes the value if it is -0.0. */
    public static void note(double value, TableName table, String column, String system, LoadNotes notes) {
        if (value == 0 && 1 / value < 0) {
            notes.value(table, column, "of -0.0 arrived as 0.0: " + system + " keeps no sign of zero");
        }
    }
}
