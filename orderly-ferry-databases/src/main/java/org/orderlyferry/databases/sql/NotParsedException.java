package org.orderlyferry.databases.sql;

/** An expression goes beyond the closed language. */
final class NotParsedException extends Exception {
    private static final long serialVersionUID = 1L;

    NotParsedException(String what) {
        super(what);
    }
}
