package org.orderlyferry.documents.mongodb;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.bson.types.ObjectId;
import org.orderlyferry.documents.bson.ColumnCells;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.Screen;
import org.orderlyferry.record.apart.Apart;

/** How a table's records become documents. Safe for use by several threads, each with a {@link #maker} of its own. */
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

    /** The columns of the key. */
    List<Integer> key() {
        return key;
    }

    /** Each column's way into the document. */
    List<String[]> paths() {
        return paths;
    }

    /** Whether a null is a field of its own. */
    boolean writesNulls() {
        return writesNulls;
    }

    /** The column that is the document; -1 if none is. */
    int whole() {
        return whole;
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
        DocumentMaker maker = maker();
        ObjectId id = GeneratedId.of(0, 0, 0);
        return Screen.by((batch, row) -> maker.document(batch, row, id));
    }

    /** Makes documents of the records, for one thread. */
    DocumentMaker maker() {
        List<ColumnCells> cells = source.columns().stream()
                .map(c -> new ColumnCells(c, source.system()))
                .toList();
        ValueRecords byValues = new ValueRecords(this, cells);
        if (whole >= 0) {
            return new WholeRecords(this, cells, byValues);
        }
        return list.isPresent()
                ? byValues
                : RawRecords.of(this, cells).map(DocumentMaker.class::cast).orElse(byValues);
    }

    /** A value that can't be in a document. */
    BadValueException bad(Records batch, int row, int column, String reason) {
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
