package org.orderlyferry.databases;

import java.util.List;
import java.util.OptionalLong;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordReader;

/** The records of one place under the definitions of another, which they may break. */
record Redefined(Place records, Place definitions) implements Place {

    @Override
    public String address() {
        return records.address();
    }

    @Override
    public String system() {
        return records.system();
    }

    @Override
    public List<TableName> tables() {
        return records.tables();
    }

    @Override
    public TableDefinition define(TableName table) {
        return definitions.define(table);
    }

    @Override
    public long count(TableName table) {
        return records.count(table);
    }

    @Override
    public OptionalLong bytes(TableName table) {
        return records.bytes(table);
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return List.of();
    }

    @Override
    public RecordReader read(Slice slice) {
        return records.read(slice);
    }

    @Override
    public void close() {
        // whoever opened the places closes them
    }
}
