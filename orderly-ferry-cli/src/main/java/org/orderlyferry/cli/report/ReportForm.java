package org.orderlyferry.cli.report;

/** What a report can be written as. */
public enum ReportForm {
    /** One page that needs nothing else. */
    HTML,
    /** A text for tickets. */
    MARKDOWN,
    /** The record itself. */
    JSON
}
