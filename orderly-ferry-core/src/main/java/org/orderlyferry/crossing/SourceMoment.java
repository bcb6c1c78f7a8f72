package org.orderlyferry.crossing;

import org.jspecify.annotations.NullMarked;

/** What a crossing may take for granted of its source while it runs. */
@NullMarked
public enum SourceMoment {
    /** All tables are to be of one moment: an export that was cut short begins again. */
    ONE,
    /** An export that was cut short keeps the tables that are whole; they are of an earlier moment than the others. */
    SEVERAL,
    /** Nobody writes to the source: an export that was cut short keeps each slice, and the proof looks at the source. */
    STILL
}
