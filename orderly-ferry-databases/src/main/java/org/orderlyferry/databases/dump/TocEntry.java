package org.orderlyferry.databases.dump;

/**
 * A thing in a dump.
 *
 * @param id its number
 * @param kind what it is, in the dump's words: {@code TABLE}, {@code TABLE DATA} …
 * @param early whether it is made before any records
 * @param definition the statements that make it; empty for none
 * @param copy the statement that its data follow; empty where they are statements themselves
 * @param file the name of the file in which its data are; empty for none, and where all are in one file
 */
record TocEntry(int id, String kind, boolean early, String definition, String copy, String file) {

    /** Whether it has records, or statements that make them. */
    boolean isData() {
        return kind.equals("TABLE DATA");
    }
}
