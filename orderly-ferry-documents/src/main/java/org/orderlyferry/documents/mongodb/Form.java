package org.orderlyferry.documents.mongodb;

/** How documents stand in tables. */
enum Form {
    /** A column for each field; what is nested stands in JSON. */
    FIELDS,
    /** What stands in objects is a column by its path, and each list a table with a key back. */
    APART,
    /** The key, and the document as JSON. */
    WHOLE
}
