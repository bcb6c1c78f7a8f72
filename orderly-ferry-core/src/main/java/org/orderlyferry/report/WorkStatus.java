package org.orderlyferry.report;

import com.fasterxml.jackson.annotation.JsonProperty;
import org.jspecify.annotations.NullMarked;

/** What became of a piece of work as a whole. */
@NullMarked
public enum WorkStatus {
    /** It came to its end. */
    @JsonProperty("finished")
    FINISHED,
    /** It was cut short, and can go on. */
    @JsonProperty("unfinished")
    UNFINISHED,
    /** It was refused before anything was changed. */
    @JsonProperty("refused")
    REFUSED,
    /** The target was put back as it was before. */
    @JsonProperty("undone")
    UNDONE
}
