package org.orderlyferry.file;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.profile.Proposal;
import org.orderlyferry.profile.References;
import org.orderlyferry.profile.TableProfile;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Several files, or one of several tables, as a place whose tables may refer to each other. */
final class FolderPlace implements FileTables {

    private final String address;
    private final String system;
    private final List<FilePlace> files;
    private final Map<TableName, FilePlace> byTable = new LinkedHashMap<>();
    private Map<TableName, TableDefinition> defined;

    FolderPlace(String address, String system, List<FilePlace> files) {
        this.address = address;
        this.system = system;
        this.files = files;
        for (FilePlace file : files) {
            for (TableName table : file.tables()) {
                FilePlace other = byTable.put(table, file);
                if (other != null) {
                    throw new UsageException("the files " + other.address() + " and " + file.address()
                            + " are both of a table " + table + "; name one of them alone");
                }
            }
        }
    }

    private FilePlace file(TableName table) {
        FilePlace file = byTable.get(table);
        if (file == null) {
            throw new UsageException("there is no table " + table + " in " + address());
        }
        return file;
    }

    @Override
    public String address() {
        return address;
    }

    @Override
    public String system() {
        return system;
    }

    @Override
    public String form() {
        return files.size() == 1 ? files.get(0).form() : "";
    }

    @Override
    public List<TableName> tables() {
        return byTable.keySet().stream().sorted().toList();
    }

    /** Tables without definitions get references too, which only all files together can tell. */
    @Override
    public TableDefinition define(TableName table) {
        FilePlace file = file(table);
        if (!file.isProposed(table)) {
            return file.define(table);
        }
        if (defined == null) {
            References references = new References();
            byTable.forEach((name, place) -> references.add(place.define(name), place.profile(name)));
            defined = new LinkedHashMap<>();
            byTable.forEach((name, place) -> {
                if (place.isProposed(name)) {
                    defined.put(name, references.added(place.define(name), () -> place.raw(name)));
                }
            });
        }
        return defined.get(table);
    }

    @Override
    public boolean isProposed(TableName table) {
        return file(table).isProposed(table);
    }

    @Override
    public Proposal propose(TableName table) {
        return file(table).propose(table);
    }

    @Override
    public TableProfile profile(TableName table) {
        return file(table).profile(table);
    }

    @Override
    public void writeDefinitions(TableName table, Path to) {
        file(table).writeDefinitions(table, to);
    }

    @Override
    public long count(TableName table) {
        return file(table).count(table);
    }

    @Override
    public long count(TableName table, Rejects hears) {
        return file(table).count(table, hears);
    }

    @Override
    public long estimate(TableName table) {
        return file(table).estimate(table);
    }

    @Override
    public List<Slice> cut(TableDefinition table, long rows, Cut cut) {
        return file(table.name()).cut(table, rows, cut);
    }

    /** Several may read the files at once, once it is known what they hold. */
    @Override
    public Companions companions(int count) {
        return new Companions(Collections.nCopies(count, (Place) this), List.of());
    }

    @Override
    public Optional<String> state() {
        List<Optional<String>> states = files.stream().map(FilePlace::state).toList();
        return states.stream().allMatch(Optional::isPresent)
                ? Optional.of(states.stream().map(Optional::get).collect(Collectors.joining(" ")))
                : Optional.empty();
    }

    @Override
    public OptionalLong bytes(TableName table) {
        return file(table).bytes(table);
    }

    @Override
    public Optional<String> besideDescription() {
        return files.stream()
                .map(FilePlace::besideDescription)
                .flatMap(Optional::stream)
                .findFirst();
    }

    @Override
    public List<Finding> notices() {
        return files.stream().flatMap(f -> f.notices().stream()).toList();
    }

    @Override
    public List<LeftBehind> leftBehind() {
        List<LeftBehind> all = new ArrayList<>();
        files.forEach(f -> all.addAll(f.leftBehind()));
        return all;
    }

    @Override
    public void check(TableDefinition table) {
        file(table.name()).check(table);
    }

    @Override
    public RecordReader read(Slice slice) {
        return file(slice.table()).read(slice);
    }

    @Override
    public RecordReader read(Slice slice, Rejects rejects) {
        return file(slice.table()).read(slice, rejects);
    }

    @Override
    public Rejects rejects() {
        return files.isEmpty() ? Rejects.STOP : files.get(0).rejects();
    }

    @Override
    public void close() {
        files.forEach(FilePlace::close);
    }
}
