package org.orderlyferry.work;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Query;
import org.orderlyferry.place.Slice;

/** Where a slice's records are. Plain values. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = SliceSource.OfTable.class, name = "table"),
    @JsonSubTypes.Type(value = SliceSource.OfQuery.class, name = "query")
})
@NullMarked
public sealed interface SliceSource {

    /** The table, by its name at the source; a query's name. */
    TableName table();

    /** Records of a table. */
    record OfTable(Slice slice) implements SliceSource {
        @Override
        public TableName table() {
            return slice.table();
        }
    }

    /** Records that a query gives. */
    record OfQuery(Query query, KeyRange range) implements SliceSource {
        @Override
        public TableName table() {
            return query.name();
        }
    }
}
