package org.orderlyferry.crossing;

import java.util.List;
import java.util.Map;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** A source of which some tables are asked for what has grown, and the others are compared. */
final class OneOrOther extends ForwardingPlace {

    private final Place source;
    private final Map<TableName, KeyRange> ranges;

    /**
     * Of two.
     *
     * @param compared gives the changed records of the tables that have no such column
     * @param ranges from which value on the others' records are wanted: that one among them, since more records may have got
     *     it after it was seen
     */
    OneOrOther(Place source, Place compared, Map<TableName, KeyRange> ranges) {
        super(compared);
        this.source = source;
        this.ranges = ranges;
    }

    @Override
    public List<Slice> cut(TableDefinition table, long rows, Cut cut) {
        KeyRange range = ranges.get(table.name());
        if (range == null) {
            return super.cut(table, rows, cut);
        }
        Slice grown = Slice.whole(table).within(range);
        String column = range.columns().get(0);
        boolean told = table.column(column).map(c -> !c.nullable()).orElse(false);
        // of a record without a value nobody can tell whether it has changed
        return told ? List.of(grown) : List.of(grown, Slice.whole(table).within(KeyRange.nulls(column)));
    }

    /** Tables that have grown are asked for by one way in, as one slice each; so there is one for all where there are such. */
    @Override
    public Companions companions(int count) {
        return ranges.isEmpty() ? super.companions(count) : Companions.NONE;
    }

    @Override
    public RecordReader read(Slice slice) {
        return ranges.containsKey(slice.table()) ? source.read(slice) : super.read(slice);
    }

    @Override
    public RecordReader read(Slice slice, Rejects rejects) {
        return ranges.containsKey(slice.table()) ? source.read(slice, rejects) : super.read(slice, rejects);
    }

    /** Its records aren't those of the place that it wraps. */
    @Override
    public RecordReader readRestricted(Slice slice, Rejects rejects, Restriction restriction) {
        return read(slice, rejects);
    }
}
