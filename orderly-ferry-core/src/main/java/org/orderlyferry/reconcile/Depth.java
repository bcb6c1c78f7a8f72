package org.orderlyferry.reconcile;

import com.fasterxml.jackson.annotation.JsonProperty;
import org.jspecify.annotations.NullMarked;

/** How deeply two places are compared. */
@NullMarked
public enum Depth {
    /** The numbers of records. */
    @JsonProperty("counts")
    COUNTS,
    /** Every value, by digests of the tables and of each column. */
    @JsonProperty("digests")
    DIGESTS,
    /** Every value, and which records differ, and where: by their keys, or as a whole where a table has none. */
    @JsonProperty("rows")
    ROWS
}
