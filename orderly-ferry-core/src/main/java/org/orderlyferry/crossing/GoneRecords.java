package org.orderlyferry.crossing;

import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.reconcile.ChangeCount;
import org.orderlyferry.reconcile.ChangedRecords;
import org.orderlyferry.reconcile.MissingKeys;

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
        Key key = source.define(table).primaryKey().orElseThrow();
        changed.look(table, key.columns(), CatchUp.RANGE, stop);
        return changed.counts().getOrDefault(table, ChangeCount.NONE).missing();
    }
}
