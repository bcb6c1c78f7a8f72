package org.orderlyferry.testkit.faults;

import java.util.List;
import java.util.OptionalLong;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/**
 * A place whose n-th call fails, counted over the place, its companions and all of their readers, {@code close} of a reader
 * included.
 *
 * @param real what answers all other calls
 */
public record FaultyPlace(Place real, Faulty faulty) implements Place {

    private Place counted() {
        return faulty.of(Place.class, real);
    }

    @Override
    public String address() {
        return real.address();
    }

    @Override
    public String system() {
        return real.system();
    }

    @Override
    public List<TableName> tables() {
        return counted().tables();
    }

    @Override
    public TableDefinition define(TableName table) {
        return counted().define(table);
    }

    @Override
    public long count(TableName table) {
        return counted().count(table);
    }

    @Override
    public OptionalLong bytes(TableName table) {
        return real.bytes(table);
    }

    @Override
    public List<Slice> cut(TableDefinition table, long rows, Cut cut) {
        return counted().cut(table, rows, cut);
    }

    @Override
    public Companions companions(int count) {
        Companions companions = counted().companions(count);
        return new Companions(
                companions.places().stream()
                        .map(p -> (Place) new FaultyPlace(p, faulty))
                        .toList(),
                companions.findings());
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return counted().leftBehind();
    }

    @Override
    public RecordReader read(Slice slice) {
        return faulty.of(RecordReader.class, counted().read(slice));
    }

    @Override
    public RecordReader read(Slice slice, Rejects rejects) {
        return faulty.of(RecordReader.class, counted().read(slice, rejects));
    }

    @Override
    public void close() {
        real.close();
    }
}
