package org.orderlyferry.databases.dialect;

/** What the case of its letters is to a table's name, in a database as it is set up. */
public enum TableCase {
    /** Two tables may have names that differ in it alone. */
    TOLD_APART,
    /** A name keeps it, and is found without it. */
    KEPT,
    /** A name is kept in small letters, however it was written. */
    LOWERED
}
