package org.orderlyferry.integrity;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.place.TextForms;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.Records;
import org.orderlyferry.tally.TallyTaker;

/** Hashes some columns' values of each record of a batch. Not safe for use by several threads. */
final class RecordHashes {

    private final int[] places;
    private final Constraint.Columns columns;
    private final TallyTaker taker;
    private final RecordBatch formed = new RecordBatch();
    private Records batch = null;

    /**
     * Makes ready.
     *
     * @param read the columns of the records that come, of which those are some
     */
    RecordHashes(Constraint.Columns columns, List<String> read) {
        this.columns = columns;
        this.places = columns.names().stream().mapToInt(read::indexOf).toArray();
        this.taker = new TallyTaker(
                columns.names(),
                columns.forms(),
                columns.areAsTheyAre()
                        ? places
                        : IntStream.range(0, places.length).toArray());
    }

    /** Hashes a batch. */
    void of(Records records) {
        batch = records;
        taker.add(columns.areAsTheyAre() ? records : formed(records));
    }

    /** Those columns alone, with their texts in the forms by which they are compared. */
    private Records formed(Records records) {
        List<List<@Nullable String>> values = new ArrayList<>();
        for (int column = 0; column < places.length; column++) {
            values.add(formed(records, places[column], columns.texts().get(column)));
        }
        formed.start(places.length, "", "", false);
        for (int row = 0; row < records.rows(); row++) {
            for (List<@Nullable String> column : values) {
                String value = column.get(row);
                if (value == null) {
                    formed.addNull();
                } else {
                    formed.add(value.getBytes(StandardCharsets.UTF_8));
                }
            }
            formed.endRow(row);
        }
        return formed;
    }

    private static List<@Nullable String> formed(Records records, int column, TextForms forms) {
        List<@Nullable String> values = new ArrayList<>(Collections.nCopies(records.rows(), null));
        List<String> texts = new ArrayList<>();
        for (int row = 0; row < records.rows(); row++) {
            String text = records.text(row, column);
            if (text != null) {
                texts.add(text);
            }
        }
        List<String> all = forms.of(texts);
        int next = 0;
        for (int row = 0; row < records.rows(); row++) {
            if (records.end(row, column) >= 0) {
                values.set(row, all.get(next++));
            }
        }
        return values;
    }

    /** Whether none of a record's values is null. */
    boolean isWhole(int row) {
        for (int place : places) {
            if (batch.end(row, place) < 0) {
                return false;
            }
        }
        return true;
    }

    long high(int row) {
        return taker.rowHigh(row);
    }

    long low(int row) {
        return taker.rowLow(row);
    }
}
