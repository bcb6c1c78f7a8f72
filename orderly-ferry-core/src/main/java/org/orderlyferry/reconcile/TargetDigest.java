package org.orderlyferry.reconcile;

import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OwnDigests;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.tally.Tally;

/** What a target has of a table now, by a digest that its server takes as it did when changed records were looked for. */
@API(status = API.Status.INTERNAL)
public final class TargetDigest {

    private TargetDigest() {}

    /**
     * Has it taken.
     *
     * @param from has the table with the columns that were compared
     * @param table by its name there
     * @param seed by which it was taken then
     * @return empty where the target can't take it any more
     */
    public static Optional<RecordSum> of(Place from, Place target, TableName table, long seed) {
        TableDefinition source = from.define(table);
        TableDefinition named = target.named(List.of(source)).get(0);
        TableDefinition there = target.define(named.name(), named.columns());
        List<String> columns = ColumnPairs.of(source, named, there).targetNames();
        Optional<OwnDigests> digests =
                target.ownDigests().filter(d -> d.form(there.name(), columns).isPresent());
        return digests.map(d -> d.of(new Slice(there.name(), columns), seed)).map(TargetDigest::sum);
    }

    private static RecordSum sum(Tally tally) {
        return new RecordSum(tally.rows(), tally.digest());
    }
}
