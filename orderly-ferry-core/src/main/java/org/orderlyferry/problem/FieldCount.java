package org.orderlyferry.problem;

import org.apiguardian.api.API;

/**
 * A record with more or fewer values than its table has columns, in the words that all formats have for it.
 *
 * @param values of the record
 * @param columns that there are
 */
@API(status = API.Status.INTERNAL)
public record FieldCount(int values, int columns) {

    @Override
    public String toString() {
        return "the record has " + values + (values == 1 ? " value, but there " : " values, but there ")
                + (columns == 1 ? "is 1 column" : "are " + columns + " columns");
    }
}
