package org.orderlyferry.reconcile;

import com.fasterxml.jackson.annotation.JsonProperty;
import org.jspecify.annotations.NullMarked;

/** What comparing one table came to. */
@NullMarked
public enum Verdict {
    @JsonProperty("equal")
    EQUAL,
    @JsonProperty("different")
    DIFFERENT,
    /** The source has the table and the target doesn't. */
    @JsonProperty("missing-in-target")
    MISSING_IN_TARGET,
    /** The target has the table and the source doesn't. */
    @JsonProperty("missing-in-source")
    MISSING_IN_SOURCE
}
