package org.orderlyferry.reconcile;

import org.apiguardian.api.API;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordBatch;

/** Hears of records that the target has and the source doesn't. Called by one thread at a time. */
@FunctionalInterface
@API(status = API.Status.INTERNAL)
public interface MissingKeys {

    /** Does nothing with them. */
    MissingKeys UNHEARD = (key, batch) -> {};

    /**
     * Some keys.
     *
     * @param key the target's table, with the columns of its key alone
     * @param batch their values in this order
     */
    void missing(TableDefinition key, RecordBatch batch);
}
