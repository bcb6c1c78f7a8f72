package org.orderlyferry.format.csv;

/** What ends a record. */
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
