package org.orderlyferry.place;

import java.util.List;
import java.util.OptionalLong;
import org.apiguardian.api.API;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;

/** A place that is made by being written, such as a file: there is nothing in it to be read until it is opened anew. */
@API(status = API.Status.INTERNAL)
public abstract class WriteOnlyPlace implements TargetPlace {

    private final String address;

    /** A place at this address, which is free of secrets. */
    protected WriteOnlyPlace(String address) {
        this.address = address;
    }

    @Override
    public final String address() {
        return address;
    }

    @Override
    public final List<TableName> tables() {
        return List.of();
    }

    @Override
    public final TableDefinition define(TableName table) {
        throw notRead();
    }

    @Override
    public final long count(TableName table) {
        throw notRead();
    }

    @Override
    public final OptionalLong bytes(TableName table) {
        throw notRead();
    }

    @Override
    public final RecordReader read(Slice slice) {
        throw notRead();
    }

    private UsageException notRead() {
        return new UsageException(address + " was opened to be written, not to be read");
    }

    @Override
    public final List<LeftBehind> leftBehind() {
        return List.of();
    }

    /** What is on its way is closed by itself. */
    @Override
    public void close() {
        // nothing is held open between loads
    }
}
