package org.orderlyferry.crossing;

import java.util.Map;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.reconcile.ChangeCount;
import org.orderlyferry.reconcile.ChangedRecords;
import org.orderlyferry.reconcile.MissingKeys;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/**
 * Finds what is gone of a table whose changes are told by a column: that one says nothing of records that aren't there any
 * more. The keys of both sides are held against each other, and nothing but these is read.
 */
final class GoneRecords {

    private GoneRecords() {}

    /**
     * Finds them.
     *
     * @param table one with a primary key
     * @param keys hears of them
     * @return how many there are
     */
    static long of(Place source, Place target, TableName table, MissingKeys keys, StopSignal stop) {
        ChangedRecords changed = new ChangedRecords(source, target, keys);
        TableDefinition definition = source.define(table);
        Key key = definition.primaryKey().orElseThrow();
        RecordBatch batch = new RecordBatch();
        for (Slice slice : changed.cut(definition, source.estimate(table), new Cut(CatchUp.RANGE, Map.of()))) {
            Slice keysAlone = new Slice(table, key.columns()).within(slice.range());
            try (RecordReader reader = changed.read(keysAlone, Rejects.UNHEARD)) {
                while (reader.read(batch)) {
                    stop.check();
                }
            }
        }
        return changed.counts().getOrDefault(table, new ChangeCount(0, 0, 0, 0)).missing();
    }
}
