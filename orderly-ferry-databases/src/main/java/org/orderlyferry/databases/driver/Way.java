package org.orderlyferry.databases.driver;

/** By which of JDBC's ways values of a type go to and fro unchanged; that differs from driver to driver. */
enum Way {
    /** By a type of {@code java.time} (JDBC 4.2). */
    OBJECT,
    /** As a text that the driver makes or takes. */
    TEXT,
    /** As a text that the server makes; only for reading. */
    SERVER_TEXT
}
