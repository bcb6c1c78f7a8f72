package org.orderlyferry.documents.mongodb;

import com.mongodb.client.FindIterable;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonReader;
import org.bson.BsonSerializationException;
import org.bson.BsonValue;
import org.bson.RawBsonDocument;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.documents.bson.RawFields;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.FieldCounts;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.progress.PiecesAhead;
import org.orderlyferry.record.apart.Apart;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Finds out which fields a collection's documents have, by reading them. Not safe for use by several threads. */
final class Survey {

    /** Documents are nested in fields of no more names than a table has columns. */
    private static final int MOST_FIELDS = 20_000;

    private static final Logger LOG = LoggerFactory.getLogger(Survey.class);

    private final String collection;
    private final StoreAddress address;
    private final KeyStats key = new KeyStats();
    private final Map<String, Map<String, FieldStats>> tables = new LinkedHashMap<>();
    private final Map<String, Long> records = new LinkedHashMap<>();
    private final Map<String, Long> emptyLists = new LinkedHashMap<>();
    private final Set<String> pointed = new LinkedHashSet<>();
    private final Apart<BsonValue> apart = new Apart<>(new BsonNesting(), KeyStats.ID, false);
    private final List<@Nullable Expected> expected = new ArrayList<>();
    private long documents;

    /** The field that stood at a place in the last document; without statistics where it isn't a column. */
    private record Expected(byte[] bytes, @Nullable FieldStats stats, boolean isKey) {}

    private Survey(String collection, StoreAddress address) {
        this.collection = collection;
        this.address = address;
        tables.put("", new LinkedHashMap<>());
        records.put("", 0L);
    }

    /** Reads a collection, or so many of its documents as the address says. */
    static Survey of(Server server, StoreAddress address, String collection) {
        return server.work("the fields of " + collection + " can't be found out", () -> {
            Survey survey = new Survey(collection, address);
            FindIterable<RawBsonDocument> find = server.find(collection, new BsonDocument());
            if (address.form() == Form.WHOLE) {
                find = find.projection(new BsonDocument(KeyStats.ID, new BsonInt32(1)));
            }
            try (PiecesAhead<RawBsonDocument> documents =
                    Batches.ahead(find.limit(address.sample()).iterator())) {
                while (documents.hasNext()) {
                    RawBsonDocument document = documents.next();
                    try {
                        survey.add(document);
                    } catch (BsonSerializationException e) {
                        // told when it is to move
                        LOG.debug("a document of {} can't be read", collection, e);
                    }
                }
            }
            return survey;
        });
    }

    private void add(RawBsonDocument document) {
        documents++;
        if (address.form() == Form.APART) {
            apart(document);
            return;
        }
        records.put("", documents);
        RawFields fields = new RawFields(document);
        for (int number = 0; fields.next(); number++) {
            field(fields, number);
        }
    }

    /** Documents of a collection mostly have the same fields in the same order. */
    private void field(RawFields fields, int number) {
        if (number == expected.size()) {
            expected.add(null);
        }
        Expected known = expected.get(number);
        if (known == null || !fields.isNamed(known.bytes())) {
            String name = fields.name();
            known = new Expected(
                    name.getBytes(StandardCharsets.UTF_8),
                    isRead("", name) ? stats("", name) : null,
                    name.equals(KeyStats.ID));
            expected.set(number, known);
            if (known.stats() != null) {
                pointed("", name);
            }
        }
        if (known.stats() != null) {
            known.stats().add(fields);
        } else if (known.isKey()) {
            key.add(fields);
        }
    }

    private void apart(RawBsonDocument document) {
        BsonDocument decoded = Documents.decoded(document);
        empties("", decoded);
        for (Apart.Part<BsonValue> part : apart.parts(decoded, null, documents)) {
            records.merge(part.list(), 1L, Long::sum);
            for (Map.Entry<String, BsonValue> field : part.fields()) {
                add(part.list(), field.getKey(), Documents.reader(field.getValue()));
            }
        }
    }

    private void pointed(String path, String name) {
        if (name.indexOf('.') >= 0) {
            pointed.add(path + name);
        }
    }

    /** What leaves no trace when it is taken apart: lists of nothing. */
    private void empties(String path, BsonDocument object) {
        object.forEach((name, value) -> {
            pointed(path, name);
            if (value.isArray() && value.asArray().isEmpty()) {
                emptyLists.merge(path + name, 1L, Long::sum);
            } else if (value.isDocument()) {
                empties(path + name + ".", value.asDocument());
            }
        });
    }

    private void add(String list, String name, BsonReader value) {
        if (isRead(list, name)) {
            stats(list, name).add(value);
        } else if (list.isEmpty() && name.equals(KeyStats.ID)) {
            key.add(value);
        }
    }

    private boolean isRead(String list, String name) {
        return !(list.isEmpty() && name.equals(KeyStats.ID))
                && !address.leftOut().contains(name);
    }

    private FieldStats stats(String list, String name) {
        Map<String, FieldStats> fields = tables.computeIfAbsent(list, l -> new LinkedHashMap<>());
        FieldStats stats = fields.computeIfAbsent(name.isEmpty() ? " " : name, n -> new FieldStats());
        if (fields.size() > MOST_FIELDS) {
            throw new PlaceException(
                    address.shown(),
                    "the documents of " + collection + " have more than " + MOST_FIELDS
                            + " different fields, which is no table; form=whole in the address reads them as they are",
                    null);
        }
        return stats;
    }

    /** The paths of all lists that became tables; the empty one for the documents themselves. */
    Set<String> lists() {
        return tables.keySet();
    }

    /** How many records a table would have. */
    long records(String list) {
        return records.getOrDefault(list, 0L);
    }

    /** What the ids are. */
    KeyStats key() {
        return key;
    }

    /** The columns of a table, those of its key first. */
    List<ColumnDefinition> columns(String list) {
        List<ColumnDefinition> columns = new ArrayList<>();
        if (list.isEmpty()) {
            if (!key.isGenerated()) {
                columns.addAll(key.columns());
            }
            if (address.form() == Form.WHOLE) {
                columns.add(Documents.WHOLE);
                return columns;
            }
        }
        tables.get(list).forEach((name, stats) -> {
            if (list.isEmpty()) {
                columns.add(stats.column(name));
            } else if (name.equals(Apart.PARENT)) {
                columns.add(parent());
            } else if (name.equals(Apart.PLACE)) {
                columns.add(ColumnDefinition.named(name, LogicalType.INTEGER)
                        .nullable(false)
                        .build());
            } else {
                columns.add(stats.column(name));
            }
        });
        return columns;
    }

    /** A key of several columns is one value in the tables of lists. */
    private ColumnDefinition parent() {
        List<ColumnDefinition> columns = key.columns();
        return columns.size() == 1
                ? columns.get(0).withName(Apart.PARENT)
                : key.whole().keyColumn(Apart.PARENT);
    }

    /** What was found of a table's columns, by their names. */
    Map<String, FieldCounts> counts(String list) {
        Map<String, FieldCounts> counts = new LinkedHashMap<>();
        if (list.isEmpty() && !key.isGenerated() && documents > 0) {
            counts.putAll(key.counts());
        }
        tables.get(list).forEach((name, stats) -> counts.put(name, stats.counts(records(list))));
        return counts;
    }

    /** What a person should know of a table's values. */
    List<Finding> findings(TableName table, String list) {
        List<Finding> findings = new ArrayList<>();
        if (list.isEmpty() && !key.whole().isOfOneType()) {
            findings.add(new Finding(FindingCode.VALUE_ODD, table, KeyStats.ID, "holds " + key.whole()));
        }
        if (list.isEmpty() && address.sample() > 0 && documents == address.sample()) {
            findings.add(Finding.of(
                    FindingCode.FORM_FOUND,
                    table,
                    String.format(
                            Locale.ROOT,
                            "its fields were found out from %,d documents; one that has others is refused",
                            documents)));
        }
        if (list.isEmpty()) {
            pointed.forEach(path -> findings.add(new Finding(
                    FindingCode.VALUE_CHANGED,
                    table,
                    path,
                    "is a name with a point in it: back in documents it becomes a field inside of an object, unless they are"
                            + " read with form=whole")));
            emptyLists.forEach((path, count) -> findings.add(new Finding(
                    FindingCode.VALUE_CHANGED,
                    table,
                    path,
                    String.format(
                            Locale.ROOT,
                            "is a list of nothing in %,d documents, which comes back as no field",
                            count))));
        }
        tables.get(list).forEach((name, stats) -> {
            if (name.contains(".") && stats.nulls() > 0 && address.form() == Form.APART) {
                findings.add(new Finding(
                        FindingCode.VALUE_CHANGED,
                        table,
                        name,
                        String.format(
                                Locale.ROOT,
                                "is null in %,d records, which comes back as no field, since it is inside of an object",
                                stats.nulls())));
            }
            if (!stats.isOfOneType()) {
                findings.add(new Finding(
                        FindingCode.VALUE_ODD,
                        table,
                        name,
                        "holds " + stats + "; all are kept as " + stats.held().type()));
            }
            long absent = records(list) - stats.seen();
            if (absent > 0 && stats.nulls() > 0) {
                findings.add(new Finding(
                        FindingCode.VALUE_ODD,
                        table,
                        name,
                        String.format(
                                Locale.ROOT,
                                "is null in %,d documents and absent from %,d, of %,d: a column has one null for both",
                                stats.nulls(),
                                absent,
                                records(list))));
            }
        });
        return findings;
    }
}
