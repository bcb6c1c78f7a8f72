package org.orderlyferry.place;

/** What a load does with tables that are there already. Whatever it is, if the load fails, the old state is there. */
public enum LoadMode {
    /** Refuses, and changes nothing. */
    CREATE,
    /** Adds the records to those that are there. */
    APPEND,
    /** Loads a new table beside the old one, and puts it in its place in one step. */
    REPLACE,
    /** By the primary key: adds records that are new, and brings those that are there to the new values. */
    MERGE
}
