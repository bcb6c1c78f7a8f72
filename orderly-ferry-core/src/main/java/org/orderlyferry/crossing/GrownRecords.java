package org.orderlyferry.crossing;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.tally.Tally;

/**
 * A source of which, of some tables, only the records from a value of a column on come: the source's own query finds them.
 * The value itself is among them, since more records may have got it after it was seen.
 */
final class GrownRecords extends ForwardingPlace {

    private final Map<TableName, KeyRange> from;

    GrownRecords(Place place, Map<TableName, KeyRange> from) {
        super(place);
        this.from = from;
    }

    @Override
    public List<Slice> cut(TableDefinition table, long rows, Cut cut) {
        KeyRange range = from.get(table.name());
        return range == null
                ? super.cut(table, rows, cut)
                : List.of(Slice.whole(table).within(range));
    }

    @Override
    public Optional<Tally> keptTally(TableName table) {
        return Optional.empty();
    }

    @Override
    public Optional<String> state() {
        return Optional.empty();
    }

    @Override
    public Companions companions(int count) {
        return Companions.NONE;
    }
}
