package org.orderlyferry.crossing;

import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.OwnDigests;
import org.orderlyferry.place.Place;

/** A place of which only some tables are there to be seen: those of a crossing, by their whole names. */
final class OnlyTables extends ForwardingPlace {

    private final Set<TableName> only;

    OnlyTables(Place place, Collection<TableName> only) {
        super(place);
        this.only = Set.copyOf(only);
    }

    @Override
    public List<TableName> tables() {
        return place().tables().stream().filter(only::contains).toList();
    }

    @Override
    public Optional<OwnDigests> ownDigests() {
        return place().ownDigests();
    }

    @Override
    public List<TableName> referrers(TableName table) {
        return place().referrers(table).stream().filter(only::contains).toList();
    }
}
