package org.orderlyferry.columnar;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.doubles.Contents;

/** What stands in a file of one table. */
final class OneFile {

    private OneFile() {}

    /** All records. */
    static List<List<String>> rows(Path file) {
        try (Place place = Places.open(file)) {
            TableDefinition table = place.define(place.tables().get(0));
            List<List<String>> rows = new ArrayList<>();
            try (RecordReader reader = place.read(Slice.whole(table))) {
                Contents.drain(reader, rows);
            }
            return rows;
        }
    }

    /** The columns' types. */
    static List<LogicalType> types(Path file) {
        try (Place place = Places.open(file)) {
            return place.define(place.tables().get(0)).columns().stream()
                    .map(ColumnDefinition::type)
                    .toList();
        }
    }
}
