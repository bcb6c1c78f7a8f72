package org.orderlyferry.place;

import java.util.List;
import org.orderlyferry.model.TableName;

/**
 * A view that shows what stands inside of a table's documents as columns.
 *
 * @param name what it is called
 * @param table the table, by its name at the place
 * @param plain the table's columns that are shown as they are
 * @param columns what is shown of the documents
 */
public record DocumentView(TableName name, TableName table, List<String> plain, List<ViewColumn> columns) {
    public DocumentView {
        plain = List.copyOf(plain);
        columns = List.copyOf(columns);
    }

    /** The same view with other columns of the documents. */
    public DocumentView with(List<ViewColumn> others) {
        return new DocumentView(name, table, plain, others);
    }
}
