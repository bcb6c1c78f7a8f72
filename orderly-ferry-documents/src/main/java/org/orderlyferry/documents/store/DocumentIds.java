package org.orderlyferry.documents.store;

import com.fasterxml.jackson.databind.node.ArrayNode;
import java.util.Locale;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.Records;

/**
 * The ids that records get as documents: the value of a key of one column, the values of a larger one as a JSON array, and
 * without a key a number of their own, which is the same when they are written again.
 */
final class DocumentIds {

    private final int[] key;
    private final String prefix;
    private long number;

    /**
     * Of one part.
     *
     * @param prefix of the ids of records that have no key; no other part of any load has the same
     */
    DocumentIds(TableDefinition table, String prefix) {
        this.key = table.primaryKey()
                .map(k -> k.columns().stream()
                        .mapToInt(table.columnNames()::indexOf)
                        .toArray())
                .orElse(new int[0]);
        this.prefix = prefix;
    }

    String next(Records batch, int row) {
        if (key.length == 0) {
            return String.format(Locale.ROOT, "%s-%012d", prefix, ++number);
        }
        String first = batch.text(row, key[0]);
        boolean plain = key.length == 1 && first != null && !first.isEmpty() && !first.startsWith("[");
        if (plain) {
            return first;
        }
        ArrayNode parts = Client.JSON.createArrayNode();
        for (int column : key) {
            parts.add(batch.text(row, column));
        }
        return parts.toString();
    }
}
