package org.orderlyferry.model;

/**
 * Something that a person should know about a table although the work goes on: a value or definition that arrives in
 * another form.
 *
 * @param code what kind of thing it is
 * @param table where
 * @param column which column; empty where the whole table is meant
 * @param text one sentence, with an example value where there is one
 */
public record Finding(FindingCode code, TableName table, String column, String text) {

    /** About a whole table. */
    public static Finding of(FindingCode code, TableName table, String text) {
        return new Finding(code, table, "", text);
    }

    /** About no table in particular. */
    public static Finding ofAll(FindingCode code, String text) {
        return of(code, TableName.of("(all)"), text);
    }

    @Override
    public String toString() {
        return (column.isEmpty() ? table.toString() : table + "." + column) + ": " + text;
    }
}
