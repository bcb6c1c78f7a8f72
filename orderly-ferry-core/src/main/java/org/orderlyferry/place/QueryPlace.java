package org.orderlyferry.place;

import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordReader;

/** A place that can answer queries. */
public interface QueryPlace extends Place {

    /** The definition of what a query gives: columns and types, no keys. */
    TableDefinition define(Query query);

    /** Reads what a query gives. */
    RecordReader read(Query query);
}
