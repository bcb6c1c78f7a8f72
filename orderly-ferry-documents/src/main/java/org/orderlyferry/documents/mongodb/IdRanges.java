package org.orderlyferry.documents.mongodb;

import com.mongodb.client.model.Sorts;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonNull;
import org.bson.BsonString;
import org.bson.BsonValue;
import org.bson.RawBsonDocument;
import org.orderlyferry.documents.bson.ColumnCells;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.text.InvalidValueException;

/** Cuts a collection by ranges of its ids, where the server finds a range without looking at all the others. */
final class IdRanges {

    private final Server server;
    private final String collection;
    private final TableDefinition table;

    IdRanges(Server server, String collection, TableDefinition table) {
        this.server = server;
        this.collection = collection;
        this.table = table;
    }

    /** Slices of about so many records; the whole where ids are of several types, or the server would read all for each. */
    List<Slice> cut(long rows, Cut cut) {
        Slice whole = Slice.whole(table);
        ColumnDefinition id = table.column(KeyStats.ID).orElse(null);
        boolean told = cut.columns().containsKey(table.name());
        if (told && !cut.columns().get(table.name()).equals(KeyStats.ID)) {
            throw new UsageException("table " + table.name() + " of documents is cut by " + KeyStats.ID + " alone");
        }
        if (id == null || rows <= cut.rows() || !isOrdered(Held.of(id, table.system())) || !findsRanges()) {
            return List.of(whole);
        }
        List<KeyRange> ranges = new ArrayList<>();
        ColumnCells cells = new ColumnCells(id, table.system());
        List<String> from = List.of();
        BsonDocument rest = new BsonDocument();
        while (true) {
            RawBsonDocument next = server.find(collection, rest)
                    .projection(new BsonDocument(KeyStats.ID, new BsonInt32(1)))
                    .sort(Sorts.ascending(KeyStats.ID))
                    .skip((int) Math.min(Integer.MAX_VALUE, cut.rows()))
                    .limit(1)
                    .first();
            List<String> to = next == null ? List.of() : List.of(text(cells, Documents.id(next)));
            ranges.add(new KeyRange(List.of(KeyStats.ID), from, to, false));
            if (next == null) {
                return ranges.size() == 1
                        ? List.of(whole)
                        : ranges.stream().map(whole::within).toList();
            }
            from = to;
            rest = new BsonDocument(KeyStats.ID, new BsonDocument("$gte", Documents.id(next)));
        }
    }

    private static String text(ColumnCells cells, BsonValue id) {
        try {
            return new String(cells.read(Documents.reader(id)), StandardCharsets.UTF_8);
        } catch (InvalidValueException e) {
            throw new UsageException("the id " + id + " " + e.getMessage());
        }
    }

    /** Whether values of a kind have an order in which ranges can be told by value text. */
    private static boolean isOrdered(Held held) {
        return held != Held.JSON && held != Held.BYTES;
    }

    /** Asks the server how it would find a range: by reading all there is, or by the index that every collection has. */
    private boolean findsRanges() {
        BsonDocument find = new BsonDocument("find", new BsonString(collection))
                .append("filter", new BsonDocument(KeyStats.ID, new BsonDocument("$gte", BsonNull.VALUE)));
        return server.asked(new BsonDocument("explain", find).append("verbosity", new BsonString("queryPlanner")))
                .map(BsonDocument::toJson)
                .filter(plan -> plan.contains("IXSCAN") || plan.contains("CLUSTERED"))
                .isPresent();
    }

    /** Whether the server orders the values of a range's columns as their texts say. */
    boolean areKnown(KeyRange range) {
        return range.columns().stream()
                .flatMap(c -> table.column(c).stream())
                .allMatch(c -> isOrdered(Held.of(c, table.system())));
    }

    /**
     * What a range is for the server. One of ids that has no lower end has all that isn't in those that follow, whatever it is:
     * the server compares values with those of their own type alone.
     */
    BsonDocument filter(KeyRange range) {
        if (range.isAll()) {
            return new BsonDocument();
        }
        if (range.nulls()) {
            return new BsonDocument(range.columns().get(0), BsonNull.VALUE);
        }
        if (range.columns().equals(List.of(KeyStats.ID))
                && range.from().isEmpty()
                && !range.to().isEmpty()) {
            return new BsonDocument(
                    KeyStats.ID, new BsonDocument("$not", new BsonDocument("$gte", value(range, range.to(), 0))));
        }
        BsonArray both = new BsonArray();
        if (!range.from().isEmpty()) {
            both.add(beyond(range, range.from(), "$gt", "$gte"));
        }
        if (!range.to().isEmpty()) {
            both.add(beyond(range, range.to(), "$lt", "$lt"));
        }
        return both.isEmpty() ? new BsonDocument() : new BsonDocument("$and", both);
    }

    /** Combinations on one side of another: the first column decides, or where that is equal the next one. */
    private BsonDocument beyond(KeyRange range, List<String> end, String strictly, String last) {
        BsonArray any = new BsonArray();
        for (int i = 0; i < end.size(); i++) {
            BsonDocument all = new BsonDocument();
            for (int j = 0; j < i; j++) {
                all.append(range.columns().get(j), new BsonDocument("$eq", value(range, end, j)));
            }
            all.append(
                    range.columns().get(i),
                    new BsonDocument(i == end.size() - 1 ? last : strictly, value(range, end, i)));
            any.add(all);
        }
        return any.size() == 1 ? any.get(0).asDocument() : new BsonDocument("$or", any);
    }

    private BsonValue value(KeyRange range, List<String> end, int index) {
        String column = range.columns().get(index);
        return value(
                new ColumnCells(
                        table.column(column)
                                .orElseThrow(() ->
                                        new UsageException("there is no column " + column + " in " + table.name())),
                        table.system()),
                end.get(index));
    }

    private static BsonValue value(ColumnCells cells, String text) {
        try {
            return cells.written(text);
        } catch (InvalidValueException e) {
            throw new UsageException("the end of a range, " + text + ", " + e.getMessage());
        }
    }
}
