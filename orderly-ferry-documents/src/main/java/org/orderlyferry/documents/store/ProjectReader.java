package org.orderlyferry.documents.store;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.InvalidValueException;

/** A collection's documents as records. */
final class ProjectReader implements RecordReader {

    private final Client client;
    private final Pages pages;
    private final TableDefinition table;
    private final List<String> fields;
    private final Rejects rejects;
    private @Nullable JsonNode page;
    private int at;
    private long number;

    /**
     * Reads a collection.
     *
     * @param table with the columns that are wanted
     * @param fields the field of each, as documents have it; empty for the documents' ids
     */
    ProjectReader(Client client, Pages pages, TableDefinition table, List<String> fields, Rejects rejects) {
        this.client = client;
        this.pages = pages;
        this.table = table;
        this.fields = fields;
        this.rejects = rejects;
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(table, client.shown());
        while (!batch.isFull()) {
            if (page == null || at == page.size()) {
                page = pages.next();
                at = 0;
                if (page == null) {
                    break;
                }
                continue;
            }
            take(batch, page.get(at++));
        }
        return batch.rows() > 0;
    }

    private void take(RecordBatch batch, JsonNode document) {
        number++;
        for (int i = 0; i < fields.size(); i++) {
            ColumnDefinition column = table.columns().get(i);
            JsonNode value = fields.get(i).isEmpty()
                    ? document.path("id")
                    : document.path("fields").path(fields.get(i));
            try {
                // the values of an enumeration say themselves how long they are
                byte[] bytes =
                        TypedJson.read(value, column.enumeration().isPresent() ? LogicalType.CLOB : column.type());
                if (bytes == null) {
                    batch.addNull();
                } else {
                    batch.add(bytes);
                }
            } catch (InvalidValueException e) {
                batch.dropRow();
                rejects.reject(new BadValueException(
                        new Origin(table.name().toString(), client.shown(), number, false),
                        column.name(),
                        value.toString(),
                        e.getMessage() + " (document " + document.path("id").asText() + ")"));
                return;
            }
        }
        batch.endRow(number);
    }

    @Override
    public void close() {
        pages.close();
    }
}
