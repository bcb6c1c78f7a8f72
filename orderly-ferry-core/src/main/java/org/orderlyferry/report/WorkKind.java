package org.orderlyferry.report;

import com.fasterxml.jackson.annotation.JsonProperty;
import org.jspecify.annotations.NullMarked;

/** What kind of work a record is of. */
@NullMarked
public enum WorkKind {
    /** A run of a crossing. */
    @JsonProperty("run")
    RUN,
    /** A run of a crossing that moved only what had changed. */
    @JsonProperty("catch-up")
    CATCH_UP,
    @JsonProperty("export")
    EXPORT,
    @JsonProperty("load")
    LOAD,
    @JsonProperty("reconcile")
    RECONCILE
}
