package org.orderlyferry.place;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.Tally;

/**
 * Hands every call on to another place. Who wraps a place begins here, so that nothing that a place can do is lost by
 * being forgotten. Only {@link #ownDigests} isn't handed on: a server knows nothing of what a wrapper makes of its records, so
 * that who leaves them as they are has to say so.
 */
@API(status = API.Status.INTERNAL)
public abstract class ForwardingPlace implements Place {

    private final Place place;

    protected ForwardingPlace(Place place) {
        this.place = place;
    }

    /** The place that calls go to. */
    protected final Place place() {
        return place;
    }

    @Override
    public String address() {
        return place.address();
    }

    @Override
    public Optional<String> moment() {
        return place.moment();
    }

    @Override
    public Optional<String> mark(TableName table, boolean standing) {
        return place.mark(table, standing);
    }

    @Override
    public OptionalLong unwritten(TableName table, String mark) {
        return place.unwritten(table, mark);
    }

    @Override
    public String system() {
        return place.system();
    }

    @Override
    public List<TableName> tables() {
        return place.tables();
    }

    @Override
    public TableDefinition define(TableName table) {
        return place.define(table);
    }

    @Override
    public TableDefinition define(TableName table, List<ColumnDefinition> also) {
        return place.define(table, also);
    }

    @Override
    public Map<String, FieldCounts> fieldCounts(TableName table) {
        return place.fieldCounts(table);
    }

    @Override
    public long count(TableName table) {
        return place.count(table);
    }

    @Override
    public long estimate(TableName table) {
        return place.estimate(table);
    }

    @Override
    public OptionalLong bytes(TableName table) {
        return place.bytes(table);
    }

    @Override
    public OptionalLong quickBytes(TableName table) {
        return place.quickBytes(table);
    }

    @Override
    public Optional<Tally> keptTally(TableName table) {
        return place.keptTally(table);
    }

    @Override
    public boolean rangesByValue(TableName table, List<String> columns) {
        return place.rangesByValue(table, columns);
    }

    @Override
    public boolean keepsDefinition(TableName table) {
        return place.keepsDefinition(table);
    }

    @Override
    public Optional<List<ServerTotal>> totals(TableName table) {
        return place.totals(table);
    }

    @Override
    public List<TableName> referrers(TableName table) {
        return place.referrers(table);
    }

    @Override
    public List<TableDefinition> named(List<TableDefinition> others) {
        return place.named(others);
    }

    @Override
    public RecordReader readSome(Slice slice, Rejects rejects, KeySample sample) {
        return place.readSome(slice, rejects, sample);
    }

    @Override
    public RecordReader readRestricted(Slice slice, Rejects rejects, Restriction restriction) {
        return place.readRestricted(slice, rejects, restriction);
    }

    @Override
    public Optional<Expectation> expected(List<TableDefinition> others) {
        return place.expected(others);
    }

    @Override
    public List<String> databases() {
        return place.databases();
    }

    @Override
    public List<Slice> cut(TableDefinition table, long rows, Cut cut) {
        return place.cut(table, rows, cut);
    }

    @Override
    public Companions companions(int count) {
        return place.companions(count);
    }

    @Override
    public Optional<String> state() {
        return place.state();
    }

    @Override
    public List<Finding> notices() {
        return place.notices();
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return place.leftBehind();
    }

    @Override
    public List<LeftBehind> leftBehind(Collection<TableName> tables) {
        return place.leftBehind(tables);
    }

    @Override
    public void verify(Runnable check) {
        place.verify(check);
    }

    @Override
    public void verifyFiles() {
        place.verifyFiles();
    }

    @Override
    public void check(TableDefinition table) {
        place.check(table);
    }

    @Override
    public RecordReader read(Slice slice) {
        return place.read(slice);
    }

    @Override
    public Rejects rejects() {
        return place.rejects();
    }

    @Override
    public RecordReader read(Slice slice, Rejects rejects) {
        return place.read(slice, rejects);
    }

    @Override
    public void cancel() {
        place.cancel();
    }

    @Override
    public void close() {
        place.close();
    }
}
