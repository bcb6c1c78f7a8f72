package org.orderlyferry.documents.mongodb;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.bson.BsonDocument;
import org.bson.BsonValue;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** The indexes of a collection, as keys and indexes of its table. */
final class Indexes {

    private static final String OF_ID = "_id_";

    private final String collection;
    private final TableDefinition table;
    private final List<LeftBehind> leftBehind;
    private final List<Key> unique = new ArrayList<>();
    private final List<IndexDefinition> plain = new ArrayList<>();

    /**
     * Indexes of a table.
     *
     * @param leftBehind takes what no table could have
     */
    Indexes(String collection, TableDefinition table, List<LeftBehind> leftBehind) {
        this.collection = collection;
        this.table = table;
        this.leftBehind = leftBehind;
    }

    /** Takes what a server lists. */
    Indexes read(List<BsonDocument> listed) {
        for (BsonDocument index : listed) {
            String name = index.getString("name").getValue();
            if (!name.equals(OF_ID)) {
                read(name, index);
            }
        }
        return this;
    }

    private void read(String name, BsonDocument index) {
        List<IndexDefinition.Part> parts = new ArrayList<>();
        for (Map.Entry<String, BsonValue> part : index.getDocument("key").entrySet()) {
            if (!part.getValue().isNumber()) {
                left(
                        name,
                        "is of a kind that tables don't have: "
                                + part.getValue().asString().getValue());
                return;
            }
            if (table.column(part.getKey()).isEmpty()) {
                left(name, "is over " + part.getKey() + ", which is no column");
                return;
            }
            parts.add(new IndexDefinition.Part(
                    part.getKey(), part.getValue().asNumber().intValue() < 0));
        }
        if (index.containsKey("expireAfterSeconds")) {
            left(name, "takes documents away after a time, which no table does");
        } else if (index.containsKey("partialFilterExpression") && !isOfValues(index, parts)
                || isTrue(index, "sparse") && !isTrue(index, "unique")) {
            left(name, "is of some documents only");
        } else if (isTrue(index, "unique")) {
            unique.add(new Key(
                    name, parts.stream().map(IndexDefinition.Part::column).toList()));
        } else {
            plain.add(new IndexDefinition(name, false, parts));
        }
    }

    /** Whether an index is of all documents that have a value there, as unique keys of tables are. */
    private static boolean isOfValues(BsonDocument index, List<IndexDefinition.Part> parts) {
        BsonDocument filter = index.getDocument("partialFilterExpression");
        return isTrue(index, "unique")
                && filter.entrySet().stream()
                        .allMatch(e -> parts.stream().anyMatch(p -> p.column().equals(e.getKey()))
                                && e.getValue().isDocument()
                                && e.getValue().asDocument().size() == 1
                                && e.getValue().asDocument().containsKey("$type"));
    }

    private static boolean isTrue(BsonDocument index, String name) {
        BsonValue value = index.get(name);
        return value != null && (value.isBoolean() ? value.asBoolean().getValue() : value.isNumber());
    }

    private void left(String name, String reason) {
        leftBehind.add(LeftBehind.of(TableName.of(collection), "index", name, reason));
    }

    /** Puts them into a definition. */
    void addTo(TableDefinition.Builder definition) {
        definition.uniqueKeys(unique).indexes(plain);
    }
}
