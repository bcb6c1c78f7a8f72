package org.orderlyferry.model;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.Locale;

/** What kind of thing a finding is about, so that a program can tell one from another whatever its text says. */
public enum FindingCode {
    VALUE_REFUSED(Severity.ERROR, "values that the target would refuse, with their number and the first"),
    DEFINITION_REFUSED(Severity.ERROR, "a definition, a key or an index that the target would refuse"),
    SCHEMA_MISSING(Severity.ERROR, "a schema that the target doesn't have"),
    TOTAL_UNLIKE(
            Severity.ERROR,
            "a column of which the server's own SQL computes other control totals than the values that were read"),
    SET_CHANGED(
            Severity.WARNING,
            "a set's file isn't the one that it was made with, or a place holds other records than its tally says"),
    TALLY_UNKNOWN(Severity.WARNING, "a set's tallies were taken in a way that can't be compared with"),
    VALUE_CHANGED(Severity.WARNING, "values that arrive in another form than they left, with their number"),
    VALUE_BY_VALUE(
            Severity.WARNING,
            "a column into one that can't hold all values of its type; one that doesn't fit is refused"),
    TYPE_CHANGED(
            Severity.WARNING,
            "a column that gets another type, since the target has none of its own or can't use it there"),
    NAME_CHANGED(Severity.WARNING, "a table, a column or a field by another name"),
    NAME_ALIKE(Severity.WARNING, "a table that is made beside one whose name differs from its own in capitals alone"),
    COLLATION_CHANGED(Severity.WARNING, "texts that are compared and sorted by other rules"),
    REFERENCE_AT_ONCE(Severity.WARNING, "a reference that no longer waits for the end of a transaction"),
    COUNTER_CHANGED(Severity.WARNING, "a counter that counts otherwise"),
    DEFINITION_DROPPED(Severity.WARNING, "parts of a definition that don't come along, since its columns are others"),
    DEFINITION_TRUSTED(Severity.WARNING, "a text of a definition that was sent as it is, since a person trusts it"),
    DEFINITION_PROPOSED(Severity.WARNING, "definitions that were proposed from values, since the file has none"),
    RECORD_ODD(Severity.WARNING, "a record that isn't whole or can't be read as it stands"),
    RECORD_REJECTED(Severity.WARNING, "records that would be rejected: how many, and each of the first"),
    RECORD_PASSED_OVER(Severity.WARNING, "records that the file itself marks as deleted"),
    ENCODING_UNMARKED(Severity.WARNING, "a file that can't say in which encoding it is"),
    ROWS_CHANGED(Severity.WARNING, "records that were changed while they were compared"),
    FILE_CHANGED(Severity.WARNING, "a file that was changed while it was read"),
    UNDO_LACKING(Severity.WARNING, "a run that couldn't be undone, and why"),
    NOT_REMOVED(Severity.WARNING, "what is needed no more and couldn't be removed"),
    STATEMENT_UNKNOWN(
            Severity.WARNING,
            "a statement of a person's own of which nobody knows whether it was done, and that isn't undone"),
    DEFINITION_BESIDE(Severity.NOTE, "definitions that were found beside the file"),
    FORM_FOUND(Severity.NOTE, "how a file was read where it doesn't say so itself"),
    VALUE_ODD(Severity.NOTE, "what is remarkable about a column's values"),
    KEY_MADE(
            Severity.NOTE, "a unique index that becomes a unique key, since the target takes references to keys alone"),
    RESUMED(Severity.NOTE, "work that was cut short before, and has gone on"),
    UNDONE(Severity.NOTE, "what a killed run had left, and that was put right first"),
    SETTLED_LATE(Severity.NOTE, "records that are in, although the connection was lost at the end"),
    DEFINITION_UNTRIED(
            Severity.NOTE, "definitions that weren't tried beforehand, since the target would keep what was tried"),
    LANE_CHANGED(Severity.NOTE, "a slower way, or fewer connections, than could be");

    /** How much a finding matters. */
    public enum Severity {
        /** The work would not be done, or not wholly. */
        @JsonProperty("error")
        ERROR,
        /** The work is done, and something is otherwise than it was. */
        @JsonProperty("warning")
        WARNING,
        /** Nothing is otherwise; it is as well to know. */
        @JsonProperty("note")
        NOTE
    }

    private final Severity severity;
    private final String meaning;

    FindingCode(Severity severity, String meaning) {
        this.severity = severity;
        this.meaning = meaning;
    }

    /** How much it matters. */
    public Severity severity() {
        return severity;
    }

    /** What it stands for, as part of a sentence. */
    public String meaning() {
        return meaning;
    }

    /** As it is shown: {@code value-refused}. */
    @Override
    public String toString() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
