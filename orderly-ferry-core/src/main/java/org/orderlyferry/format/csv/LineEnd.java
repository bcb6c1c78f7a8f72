package org.orderlyferry.format.csv;

import org.jspecify.annotations.NullMarked;

/** What ends a record. */
@NullMarked
public enum LineEnd {
    /** Carriage return and line feed, as RFC 4180 has it. */
    CRLF("\r\n"),
    LF("\n"),
    CR("\r");

    private final String text;

    LineEnd(String text) {
        this.text = text;
    }

    /** Its characters. */
    public String text() {
        return text;
    }
}
