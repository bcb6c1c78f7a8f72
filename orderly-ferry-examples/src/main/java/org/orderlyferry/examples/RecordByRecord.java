package org.orderlyferry.examples;

import java.util.Map;
import java.util.TreeMap;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** Reads an export set record by record: how many taxa are there of each level? */
public final class RecordByRecord {

    private RecordByRecord() {}

    /**
     * Counts the taxa of a place: {@code PLACE}. Without arguments, those of a small herbarium.
     *
     * @param arguments an export set, a file or a database that has a table taxon, or none
     */
    public static void main(String[] arguments) {
        String place = arguments.length == 1
                ? arguments[0]
                : Workplace.herbarium(Workplace.folder(), false).toString();
        taxaByLevel(place).forEach((level, count) -> System.out.println(level + ": " + count));
    }

    static Map<String, Integer> taxaByLevel(String set) {
        Map<String, Integer> counts = new TreeMap<>();
        try (Place files = Places.open(set)) {
            TableDefinition taxon = files.define(TableName.of("taxon"));
            int level = taxon.columnNames().indexOf("level");
            RecordBatch batch = new RecordBatch();
            try (RecordReader reader = files.read(Slice.whole(taxon))) {
                while (reader.read(batch)) {
                    for (int row = 0; row < batch.rows(); row++) {
                        counts.merge(batch.text(row, level), 1, Integer::sum);
                    }
                }
            }
        }
        return counts;
    }
}
