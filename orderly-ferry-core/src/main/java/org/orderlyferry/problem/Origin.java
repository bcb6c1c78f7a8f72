package org.orderlyferry.problem;

/**
 * Where a record came from, for messages.
 *
 * @param table the table's name; empty where none is known yet
 * @param source the file, or the place, that it was read from
 * @param line the line in the file on which the record starts, from 1; for a database the number of the record; 0 where
 *     it isn't known
 * @param isFile whether {@code line} counts lines of a file
 * @param key by which a record of a place without lines can be found again, as {@code column = value}; empty where it
 *     isn't known
 */
public record Origin(String table, String source, long line, boolean isFile, String key) {

    /** Of a record that has no key, or a line. */
    public Origin(String table, String source, long line, boolean isFile) {
        this(table, source, line, isFile, "");
    }

    @Override
    public String toString() {
        StringBuilder text = new StringBuilder();
        if (isFile) {
            text.append(source);
            if (line > 0) {
                text.append(", line ").append(line);
            }
            if (!table.isEmpty()) {
                text.append(", table ").append(table);
            }
        } else {
            text.append("table ").append(table);
            if (line > 0) {
                text.append(", record ").append(line);
            }
            if (!key.isEmpty()) {
                text.append(" (").append(key).append(')');
            }
        }
        return text.toString();
    }
}
