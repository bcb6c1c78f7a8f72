package org.orderlyferry.documents.mongodb;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.bson.BsonDocument;
import org.bson.BsonNull;
import org.bson.BsonObjectId;
import org.bson.BsonValue;
import org.bson.types.ObjectId;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.documents.bson.ColumnCells;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.Screen;
import org.orderlyferry.record.apart.Apart;
import org.orderlyferry.record.text.InvalidValueException;

/** How a table's records become documents. Safe for use by several threads, each with {@link #cells} of its own. */
final class LoadTable {

    private final TableDefinition source;
    private final TableDefinition target;
    private final LoadNote.Part part;
    private final boolean writesNulls;
    private final Optional<ListTable> list;
    private final int whole;
    private final List<Integer> key = new ArrayList<>();
    private final List<String[]> paths = new ArrayList<>();

    /**
     * A table's way.
     *
     * @param source as its records come
     * @param target with the names that it gets
     * @param list the list whose elements its records are; empty for documents
     */
    LoadTable(
            TableDefinition source,
            TableDefinition target,
            LoadNote.Part part,
            boolean writesNulls,
            Optional<ListTable> list) {
        this.source = source;
        this.target = target;
        this.part = part;
        this.writesNulls = writesNulls;
        this.list = list;
        this.whole = Documents.areWhole(source) ? source.columnNames().indexOf(Documents.WHOLE.name()) : -1;
        for (int i = 0; i < target.columns().size(); i++) {
            String name = target.columns().get(i).name();
            if (list.isEmpty() && KeyStats.isOfKey(name)) {
                key.add(i);
            }
            String field = list.filter(l -> l.place() >= 0).isPresent() ? Apart.field(name) : name;
            paths.add(field.equals(" ") ? new String[] {""} : field.split("\\.", -1));
        }
    }

    TableDefinition source() {
        return source;
    }

    TableDefinition target() {
        return target;
    }

    LoadNote.Part part() {
        return part;
    }

    Optional<ListTable> list() {
        return list;
    }

    /** Whether its records are documents as they are. */
    boolean isWhole() {
        return whole >= 0;
    }

    /** Whether documents get ids that mean nothing. */
    boolean isKeyless() {
        return key.isEmpty() && whole < 0;
    }

    /** The names of the fields that aren't of the key, as paths. */
    List<String> fields() {
        List<String> fields = new ArrayList<>();
        for (int i = 0; i < paths.size(); i++) {
            if (!key.contains(i)) {
                fields.add(String.join(".", paths.get(i)));
            }
        }
        return fields;
    }

    /** Takes out records that no document could hold, for one thread. */
    Screen screen() {
        List<ColumnCells> cells = cells();
        ObjectId id = GeneratedId.of(0, 0, 0);
        return Screen.by((batch, row) -> document(cells, batch, row, id));
    }

    /** Cells for each column, for one thread. */
    List<ColumnCells> cells() {
        return source.columns().stream()
                .map(c -> new ColumnCells(c, source.system()))
                .toList();
    }

    /**
     * A record's document.
     *
     * @param generated the id for a record that has no key
     * @throws BadValueException if a value can't be in one
     */
    BsonDocument document(List<ColumnCells> cells, Records batch, int row, ObjectId generated) {
        if (whole >= 0) {
            return whole(cells, batch, row);
        }
        BsonDocument document = new BsonDocument(Math.max(16, source.columns().size() * 2));
        if (list.isPresent()) {
            return element(list.get(), document, cells, batch, row, generated);
        }
        document.append(KeyStats.ID, key.isEmpty() ? new BsonObjectId(generated) : id(cells, batch, row));
        for (int column = 0; column < source.columns().size(); column++) {
            if (!key.contains(column)) {
                put(document, cells, column, value(cells, batch, row, column), batch, row);
            }
        }
        return document;
    }

    private BsonValue id(List<ColumnCells> cells, Records batch, int row) {
        BsonDocument parts = new BsonDocument();
        for (int column : key) {
            BsonValue value = value(cells, batch, row, column);
            if (value == null) {
                throw bad(batch, row, column, "isn't allowed in a key of documents");
            } else if (value.isArray()) {
                throw bad(batch, row, column, "is a list, and a key of documents can't be");
            }
            String name = target.columns().get(column).name();
            if (name.equals(KeyStats.ID)) {
                return value;
            }
            parts.append(name.substring(KeyStats.ID.length() + 1), value);
        }
        return parts;
    }

    private BsonDocument whole(List<ColumnCells> cells, Records batch, int row) {
        BsonValue value = value(cells, batch, row, whole);
        if (value == null || !value.isDocument()) {
            throw bad(batch, row, whole, "is no document");
        }
        BsonDocument document = value.asDocument();
        if (!key.isEmpty() && !id(cells, batch, row).equals(document.get(KeyStats.ID))) {
            throw bad(batch, row, key.get(0), "isn't the " + KeyStats.ID + " of the document");
        }
        return document;
    }

    private BsonDocument element(
            ListTable of, BsonDocument staged, List<ColumnCells> cells, Records batch, int row, ObjectId generated) {
        BsonValue parent = value(cells, batch, row, of.parent());
        if (parent == null) {
            throw bad(batch, row, of.parent(), "leaves open in which document of the other table the record is");
        }
        staged.append(KeyStats.ID, new BsonObjectId(generated)).append(Lists.PARENT, parent);
        if (of.place() >= 0) {
            BsonValue place = value(cells, batch, row, of.place());
            if (place == null) {
                throw bad(batch, row, of.place(), "leaves the record no place in its list");
            }
            staged.append(Lists.PLACE, place);
        }
        BsonDocument fields = new BsonDocument();
        BsonValue single = null;
        boolean hasSingle = false;
        for (int column = 0; column < source.columns().size(); column++) {
            if (column == of.parent() || column == of.place()) {
                continue;
            }
            BsonValue value = value(cells, batch, row, column);
            if (of.place() >= 0 && source.columns().get(column).name().equals(Apart.VALUE)) {
                single = value;
                hasSingle = true;
            } else {
                put(fields, cells, column, value, batch, row);
            }
        }
        boolean nothing = fields.values().stream().allMatch(BsonValue::isNull);
        return staged.append(
                Lists.ELEMENT,
                hasSingle && (single != null || nothing) ? (single == null ? BsonNull.VALUE : single) : fields);
    }

    private void put(
            BsonDocument document,
            List<ColumnCells> cells,
            int column,
            @Nullable BsonValue value,
            Records batch,
            int row) {
        String[] path = paths.get(column);
        if (value == null) {
            // an object of which nothing is there isn't there itself
            if (writesNulls
                    && path.length == 1
                    && cells.get(column).held() != Held.JSON
                    && !document.containsKey(path[0])) {
                document.append(path[0], BsonNull.VALUE);
            }
            return;
        }
        BsonDocument at = document;
        for (int i = 0; i < path.length - 1; i++) {
            BsonValue inner = at.get(path[i]);
            if (inner == null || inner.isNull()) {
                inner = new BsonDocument();
                at.put(path[i], inner);
            } else if (!inner.isDocument()) {
                throw bad(batch, row, column, "has no place, since " + path[i] + " is a value by itself");
            }
            at = inner.asDocument();
        }
        String name = path[path.length - 1];
        BsonValue there = at.get(name);
        if (there != null && !there.isNull()) {
            throw bad(batch, row, column, "has no place, since its name is that of an object");
        }
        at.put(name, value);
    }

    private @Nullable BsonValue value(List<ColumnCells> cells, Records batch, int row, int column) {
        if (batch.isNull(row, column)) {
            return null;
        }
        try {
            return cells.get(column).written(batch, row, column);
        } catch (InvalidValueException e) {
            throw bad(batch, row, column, e.getMessage());
        }
    }

    private BadValueException bad(Records batch, int row, int column, String reason) {
        ColumnDefinition definition = source.columns().get(column);
        return new BadValueException(
                batch.origin(row),
                definition.name(),
                definition.type().name().isBinary() ? "(binary)" : batch.text(row, column),
                reason);
    }

    /** A record's key, for people. */
    String shownKey(Records batch, int row) {
        StringBuilder shown = new StringBuilder();
        for (int column : key) {
            shown.append(shown.isEmpty() ? "" : ", ")
                    .append(source.columns().get(column).name())
                    .append(" = ")
                    .append(batch.text(row, column));
        }
        return shown.toString();
    }
}
