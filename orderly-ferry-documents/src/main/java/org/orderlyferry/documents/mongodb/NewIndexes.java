package org.orderlyferry.documents.mongodb;

import com.mongodb.MongoException;
import com.mongodb.client.MongoCollection;
import com.mongodb.client.model.IndexOptions;
import java.util.List;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonNull;
import org.bson.BsonString;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.problem.PlaceException;

/** Gives collections that come with a load the unique keys and indexes of their tables. Not safe for use by several threads. */
final class NewIndexes {

    private final Server server;
    private final List<LeftBehind> leftBehind;
    private @Nullable Boolean partialIndexes;

    /**
     * Of a load.
     *
     * @param leftBehind where what can't be had is added
     */
    NewIndexes(Server server, List<LeftBehind> leftBehind) {
        this.server = server;
        this.leftBehind = leftBehind;
    }

    /** Makes the unique keys of a collection on its way, or its other indexes. */
    void make(LoadTable table, boolean unique) {
        if (unique && isMade(table)) {
            uniqueKeys(table);
        }
        for (IndexDefinition index : table.target().indexes()) {
            if (isMade(table) && LoadTables.isPlain(index) && index.unique() == unique) {
                index(table, index.name(), index, new IndexOptions().unique(unique));
            }
        }
    }

    /** Whether the collection that comes is what will be there, and not only its documents. */
    private static boolean isMade(LoadTable table) {
        LoadMode mode = table.part().mode().orElse(LoadMode.APPEND);
        return mode != LoadMode.APPEND && mode != LoadMode.MERGE;
    }

    private void uniqueKeys(LoadTable table) {
        for (Key key : table.target().uniqueKeys()) {
            BsonDocument values = new BsonDocument();
            for (String column : key.columns()) {
                ColumnDefinition definition = table.target().column(column).orElseThrow();
                Held.of(definition, table.source().system())
                        .word()
                        .filter(w -> definition.nullable())
                        .ifPresent(w -> values.append(column, new BsonDocument("$type", new BsonString(w))));
            }
            IndexOptions options = new IndexOptions().unique(true);
            if (values.isEmpty()) {
                index(table, key.name(), IndexDefinition.of(key.name(), true, key.columns()), options);
            } else if (hasPartialIndexes()) {
                options.partialFilterExpression(values);
                index(table, key.name(), IndexDefinition.of(key.name(), true, key.columns()), options);
            } else {
                leftBehind.add(new LeftBehind(
                        "unique key",
                        table.source().name() + "." + key.shown(),
                        "the server takes a null for a value that only one document may have"));
            }
        }
    }

    /** Whether the server looks only at documents that a filter lets through: tried, once, where nobody looks. */
    private boolean hasPartialIndexes() {
        if (partialIndexes == null) {
            MongoCollection<BsonDocument> collection =
                    server.database().getCollection(LoadNote.TRIAL, BsonDocument.class);
            try {
                collection.createIndex(
                        new BsonDocument("a", new BsonInt32(1)),
                        new IndexOptions()
                                .unique(true)
                                .partialFilterExpression(
                                        new BsonDocument("a", new BsonDocument("$type", new BsonString("string")))));
                collection.insertMany(
                        List.of(new BsonDocument("a", BsonNull.VALUE), new BsonDocument("a", BsonNull.VALUE)));
                partialIndexes = true;
            } catch (MongoException e) {
                partialIndexes = false;
            } finally {
                collection.drop();
            }
        }
        return partialIndexes;
    }

    private void index(LoadTable table, String name, IndexDefinition index, IndexOptions options) {
        BsonDocument keys = new BsonDocument();
        index.parts().forEach(p -> keys.append(p.column(), new BsonInt32(p.descending() ? -1 : 1)));
        if (!name.isEmpty()) {
            options.name(name);
        }
        try {
            server.collection(table.part().incoming()).createIndex(keys, options);
        } catch (MongoException e) {
            throw new PlaceException(
                    server.shown(),
                    "table " + table.source().name() + " can't have the " + (index.unique() ? "unique key " : "index ")
                            + index.shown() + ": "
                            + server.said(e)
                                    .replace(
                                            table.part().incoming(),
                                            table.part().name()),
                    e);
        }
    }
}
