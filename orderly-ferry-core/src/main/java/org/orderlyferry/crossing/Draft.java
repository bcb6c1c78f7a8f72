package org.orderlyferry.crossing;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.view.DocumentViews;

/**
 * Looks at both ends and writes a crossing down, each choice with what speaks for it. Nothing is changed at either end. Not
 * safe for use by several threads.
 */
@NullMarked
public final class Draft {

    private static final String SOURCE_PASSWORD = "FERRY_SOURCE_PASSWORD";
    private static final String TARGET_PASSWORD = "FERRY_TARGET_PASSWORD";

    private final String from;
    private final String to;
    private final List<String> patterns = new ArrayList<>();
    private Secrets secrets = Secrets.unattended();
    private Optional<List<String>> views = Optional.empty();
    private boolean makeMissing;
    private int lanes = Math.max(1, Runtime.getRuntime().availableProcessors());

    private Draft(String from, String to) {
        this.from = from;
        this.to = to;
    }

    /** A draft between two addresses. A password in one is left open in the file. */
    public static Draft between(String from, String to) {
        return new Draft(from, to);
    }

    /** Only these tables; {@code *} in a name stands for any characters. */
    public Draft tables(String... names) {
        patterns.addAll(List.of(names));
        return this;
    }

    /**
     * Views that show what stands in documents, as statements to be run after the load; the source's documents are read for them. An
     * empty list is all paths.
     */
    public Draft views(List<String> paths) {
        views = Optional.of(List.copyOf(paths));
        return this;
    }

    /**
     * Whether the target's database and schemas are to be made where they aren't there; not unless told so. A database that isn't
     * is made to be looked at, and removed again.
     */
    public Draft makeMissing(boolean value) {
        makeMissing = value;
        return this;
    }

    /** Fills in what the addresses leave open. */
    public Draft secrets(Secrets value) {
        secrets = value;
        return this;
    }

    /**
     * Writes the crossing; or, where the file is there already, adds to it what is new at the source and leaves all else as
     * it is.
     *
     * @throws org.orderlyferry.problem.MalformedFileException if the file is there and is none
     * @throws UsageException if the file is there and says otherwise than what is told here, or views are asked for, or what they
     *     are to show isn't there
     */
    public Drafted write(Path file) {
        Optional<Crossing> older = Files.exists(file) ? Optional.of(Crossing.read(file)) : Optional.empty();
        if (makeMissing && older.isPresent() && !older.get().makeMissing()) {
            throw new UsageException(file + " is there already, and says make-missing: false; edit it there");
        }
        if (older.isPresent() && views.isPresent()) {
            throw new UsageException(file + " is there already, and views are only written into a new file");
        }
        boolean made = makeMissing || older.map(Crossing::makeMissing).orElse(false);
        OpenOptions.Builder options = OpenOptions.builder().secrets(secrets);
        try (Place source = Places.open(PlaceAddress.of(from), options.build());
                TargetPlace target = Places.openTarget(
                        PlaceAddress.of(to), options.makeMissing(made).build())) {
            List<TableDefinition> tables = TableChoice.of(source, patterns).stream()
                    .map(source::define)
                    .toList();
            Looked looked = new Looked(source, target, tables);
            return older.isPresent() ? extended(file, older.get(), looked) : drafted(file, looked);
        }
    }

    private Drafted drafted(Path file, Looked looked) {
        CrossingWriter.Remarks remarks = looked.remarks();
        int most = looked.target.mostLanes();
        int wanted = Math.min(lanes, most);
        remarks.keys()
                .put(
                        "lanes",
                        "how many slices move at once; "
                                + (most < lanes ? "the target takes " + most : "this machine has " + lanes + " cores"));
        remarks.keys().put("from", looked.source.system());
        remarks.keys().put("to", looked.target.system());
        looked.ontoRemark().ifPresent(r -> remarks.keys().put("onto", r));
        List<TargetStatement> after = new ArrayList<>();
        views.ifPresent(paths -> DocumentViews.over(looked.source)
                .tables(patterns.toArray(String[]::new))
                .paths(paths)
                .propose(looked.target)
                .statements(looked.target)
                .forEach(v -> after.add(new TargetStatement(v.create(), v.drop()))));
        Crossing crossing = Crossing.between(written(file, from, SOURCE_PASSWORD), written(file, to, TARGET_PASSWORD))
                .lanes(wanted)
                .makeMissing(makeMissing)
                .tables(looked.tables())
                .after(after)
                .build();
        save(file, CrossingWriter.write(crossing, remarks));
        return new Drafted(file, Crossing.read(file), true, List.of());
    }

    /** An address as the file has it: paths from the file's folder on, and no password. */
    private static String written(Path file, String address, String variable) {
        boolean url = address.indexOf(':') > 1;
        if (url) {
            return PlaceAddress.of(address).leftOpen(variable);
        }
        Path folder = Optional.ofNullable(file.toAbsolutePath().normalize().getParent())
                .orElse(file);
        Path path = Path.of(address).toAbsolutePath().normalize();
        return path.startsWith(folder) ? folder.relativize(path).toString() : path.toString();
    }

    static void save(Path file, String text) {
        try {
            NewFile.whole(file, text.getBytes(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be written: " + e.getMessage(), e);
        }
    }

    /** Adds lines to a file that somebody may have edited, and touches no other line. */
    private Drafted extended(Path file, Crossing older, Looked looked) {
        String text = CrossingReader.text(file);
        YamlValue.Mapping root = YamlTree.read(file.toString(), text);
        Additions additions = new Additions(file, root, text);
        Map<TableName, CrossingTable> known = older.tables().stream()
                .collect(Collectors.toMap(CrossingTable::name, t -> t, (a, b) -> a, LinkedHashMap::new));
        List<String> news = new ArrayList<>();
        CrossingWriter.Remarks remarks = looked.remarks();
        for (CrossingTable table : looked.tables()) {
            CrossingTable before = known.remove(table.name());
            if (before == null) {
                additions.table(CrossingWriter.lines(table, remarks));
                news.add("table " + table.name() + " is new at the source; it was added");
                continue;
            }
            for (CrossingColumn column : table.columns()) {
                boolean decided = before.skip().contains(column.name())
                        || before.columns().stream().anyMatch(c -> c.name().equals(column.name()));
                if (!decided) {
                    additions.column(table.name(), CrossingWriter.column(column, 0, 0, "new at the source"));
                    news.add("table " + table.name() + " has a new column " + column.name() + "; it was added");
                }
            }
            List<String> now =
                    table.columns().stream().map(CrossingColumn::name).toList();
            before.columns().stream()
                    .filter(c -> !now.contains(c.name()))
                    .forEach(c -> news.add("table " + table.name() + " has no column " + c.name() + " any more"));
        }
        if (patterns.isEmpty()) {
            known.keySet().forEach(t -> news.add("there is no table " + t + " at the source any more"));
        }
        if (additions.any()) {
            save(file, additions.text());
        }
        return new Drafted(file, Crossing.read(file), false, news);
    }

    /** What was found at both ends. */
    private static final class Looked {

        private final Place source;
        private final TargetPlace target;
        private final List<TableDefinition> definitions;
        private final List<TableDefinition> named;

        Looked(Place source, TargetPlace target, List<TableDefinition> definitions) {
            this.source = source;
            this.target = target;
            this.definitions = definitions;
            this.named = target.named(definitions);
        }

        List<CrossingTable> tables() {
            List<CrossingTable> all = new ArrayList<>();
            for (int i = 0; i < definitions.size(); i++) {
                TableDefinition at = definitions.get(i);
                TableDefinition to = named.get(i);
                List<CrossingColumn> columns = new ArrayList<>();
                for (int c = 0; c < at.columns().size(); c++) {
                    columns.add(new CrossingColumn(
                            at.columns().get(c).name(),
                            to.columns().get(c).name(),
                            at.columns().get(c).type().toString()));
                }
                all.add(new CrossingTable(at.name(), to.name(), "", "", "", columns, List.of()));
            }
            return all;
        }

        CrossingWriter.Remarks remarks() {
            CrossingWriter.Remarks remarks = CrossingWriter.Remarks.none();
            List<TableName> there = target.tables();
            for (int i = 0; i < definitions.size(); i++) {
                TableDefinition at = definitions.get(i);
                remarks.tables().put(at.name(), about(at, named.get(i), there));
                Map<String, String> columns = new LinkedHashMap<>();
                at.columns().forEach(c -> columns.put(c.name(), about(at, c)));
                remarks.columns().put(at.name(), columns);
            }
            leftBehind(remarks);
            return remarks;
        }

        private List<String> about(TableDefinition at, TableDefinition to, List<TableName> there) {
            List<String> lines = new ArrayList<>();
            long kilobytes = source.bytes(at.name()).orElse(0) / 1000;
            String size = kilobytes > 0 ? ", " + kilobytes + " kB" : "";
            lines.add("about " + records(source.estimate(at.name())) + size
                    + at.primaryKey()
                            .map(k -> ", key " + String.join(", ", k.columns()))
                            .orElse(", no primary key: it moves in one slice, and can't be merged into"));
            if (!at.foreignKeys().isEmpty()) {
                lines.add("refers to "
                        + at.foreignKeys().stream()
                                .map(ForeignKey::target)
                                .distinct()
                                .map(TableName::toString)
                                .collect(Collectors.joining(", ")));
            }
            if (there.contains(to.name())) {
                lines.add("the target has it already, with about " + records(target.estimate(to.name())));
            }
            return lines;
        }

        private static String records(long count) {
            return count + (count == 1 ? " record" : " records");
        }

        private String about(TableDefinition table, ColumnDefinition column) {
            String source = column.sourceType().isEmpty() ? column.type().toString() : column.sourceType();
            String key = table.primaryKey()
                            .filter(k -> k.columns().contains(column.name()))
                            .isPresent()
                    ? ", key"
                    : column.nullable() ? "" : ", not null";
            return source + target.ownType(column.type()).map(o -> " → " + o).orElse("") + key;
        }

        Optional<String> ontoRemark() {
            List<TableName> there = target.tables();
            List<TableName> already = named.stream()
                    .map(TableDefinition::name)
                    .filter(there::contains)
                    .toList();
            return already.isEmpty()
                    ? Optional.of("none of these tables is at the target; refuse, append, replace or merge")
                    : Optional.of(
                            "the target has " + Listed.of(already) + "; refuse, or choose append, replace or merge");
        }

        /** What can't come along, and what arrives otherwise: as a load without records would say it. */
        private void leftBehind(CrossingWriter.Remarks remarks) {
            List<String> left = new ArrayList<>();
            List<LeftBehind> sources = source.leftBehind(
                    definitions.stream().map(TableDefinition::name).toList());
            List<String> changed = new ArrayList<>();
            try (Loading rehearsal = target.rehearse(definitions, LoadModes.all(LoadMode.REPLACE))) {
                rehearsal.lacking(sources).forEach(l -> left.add(l.toString()));
                rehearsal.leftBehind().forEach(l -> left.add(l.toString()));
                rehearsal.findings().forEach(f -> changed.add(f.toString()));
            } catch (UnsupportedOperationException e) {
                sources.forEach(l -> left.add(l.toString()));
                changed.add("this kind of target can't say beforehand what it holds otherwise");
            } catch (UsageException e) {
                sources.forEach(l -> left.add(l.toString()));
                // which is for whoever edits the file to decide: what can't be replaced may be added to
                remarks.end().add("In the way of these tables, if they came in place of what is there:");
                Refusals.of(e).forEach(l -> remarks.end().add("- " + l));
            }
            if (!left.isEmpty()) {
                remarks.end().add("Left behind:");
                left.forEach(l -> remarks.end().add("- " + l));
            }
            if (!changed.isEmpty()) {
                remarks.end().add("Comes otherwise:");
                changed.forEach(c -> remarks.end().add("- " + c));
            }
        }
    }
}
