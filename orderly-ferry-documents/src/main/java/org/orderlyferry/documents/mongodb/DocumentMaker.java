package org.orderlyferry.documents.mongodb;

import org.bson.RawBsonDocument;
import org.bson.types.ObjectId;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.Records;

/** Makes documents of a table's records. Not safe for use by several threads. */
@FunctionalInterface
interface DocumentMaker {

    /**
     * A record's document.
     *
     * @param generated the id for a record that has no key
     * @throws BadValueException if a value can't be in one
     */
    RawBsonDocument document(Records batch, int row, ObjectId generated);
}
