package org.orderlyferry.place;

import java.util.List;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** A place that can answer queries. */
@API(status = API.Status.INTERNAL)
public interface QueryPlace extends Place {

    /** The definition of what a query gives, without running it where the place can tell: columns and types, no keys. */
    TableDefinition define(Query query);

    /**
     * Cuts what a query gives into ranges that hold all of it, and each record once; the query is run for that.
     *
     * @param definition what it gives
     * @param column by which of its columns
     * @param rows how many records a range has, about
     */
    List<KeyRange> cut(Query query, TableDefinition definition, String column, long rows);

    /**
     * Reads what a query gives.
     *
     * @param definition what it gives
     * @param range which of its records
     * @param rejects hears of records that can't be taken
     */
    RecordReader read(Query query, TableDefinition definition, KeyRange range, Rejects rejects);
}
