package org.orderlyferry.place;

/** What a load that was killed had left in a target, and what has become of that. */
public enum Leftover {
    /** There was nothing. */
    NONE,
    /** It is kept, for a load of the same plan to go on with. */
    KEPT,
    /** It was undone. */
    UNDONE,
    /** The load had come so far that only its end was missing, which has been done: its records are in. */
    FINISHED
}
