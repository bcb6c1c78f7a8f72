package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.Verdict;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.generated.GeneratedRows;
import org.orderlyferry.testkit.generated.GeneratedTables;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Whatever tables are like, a system takes them, or what it doesn't take is told. */
class GeneratedDefinitionsTest {

    private static final int SEEDS = Integer.getInteger("ferry.definitions", 6);

    @TempDir
    private Path folder;

    static Stream<Arguments> systemsAndSeeds() {
        return TestSystem.names().flatMap(system -> seeds(SEEDS).mapToObj(seed -> Arguments.of(system, seed)));
    }

    private static LongStream seeds(int count) {
        return LongStream.range(0, count).map(s -> Long.getLong("ferry.seed", 4) * 1_000 + s);
    }

    private static ListedPlace source(List<TableDefinition> tables) {
        ListedPlace source = new ListedPlace();
        tables.forEach(t -> source.with(t, List.of()));
        return source;
    }

    /** What two systems could both say of a table, each thing in a line. */
    private static Set<String> parts(TableDefinition table) {
        Set<String> parts = new HashSet<>();
        List<String> columns = table.columnNames();
        for (ColumnDefinition column : table.columns()) {
            String where = "column " + columns.indexOf(column.name()) + ": ";
            parts.add(where + column.name());
            parts.add(where + "nullable " + column.nullable());
            column.identity().ifPresent(i -> parts.add(where + "counts by " + i.increment()));
            column.generation().ifPresent(g -> parts.add(where + "is computed"));
            column.defaultValue().ifPresent(d -> parts.add(where + "has a default"));
            if (!column.comment().isEmpty()) {
                parts.add(where + "comment " + column.comment());
            }
            if (!column.collation().isEmpty()) {
                parts.add(where + "compared by " + column.collation());
            }
            column.enumeration().ifPresent(e -> parts.add(where + "one of " + e.values()));
        }
        table.primaryKey().ifPresent(k -> parts.add("key " + places(columns, k.columns())));
        for (Key key : table.uniqueKeys()) {
            // what the primary key says already needn't be said twice
            if (table.primaryKey()
                    .filter(k -> k.columns().equals(key.columns()))
                    .isPresent()) {
                continue;
            }
            parts.add("unique " + places(columns, key.columns()));
        }
        for (ForeignKey key : table.foreignKeys()) {
            parts.add("reference " + places(columns, key.columns()) + " on update " + action(key.onUpdate())
                    + " on delete " + action(key.onDelete()) + " " + key.deferrability());
        }
        for (IndexDefinition index : table.indexes()) {
            parts.add((index.unique() ? "unique " : "index ") + places(columns, index.columns()));
            if (index.unique()
                    && index.isPlain()
                    && index.parts().stream().noneMatch(IndexDefinition.Part::descending)) {
                // some systems make it a key
                continue;
            }
            parts.add("index " + places(columns, index.columns()) + " "
                    + index.parts().stream()
                            .map(IndexDefinition.Part::descending)
                            .toList() + " " + index.predicate());
        }
        // what the primary key says already needn't be said twice
        table.primaryKey().ifPresent(k -> parts.remove("unique " + places(columns, k.columns())));
        table.checks().forEach(c -> parts.add("check"));
        if (!table.comment().isEmpty()) {
            parts.add("comment " + table.comment());
        }
        return parts;
    }

    /** What refuses at once and what refuses in the end is the same where nothing waits. */
    private static ReferentialAction action(ReferentialAction action) {
        return action == ReferentialAction.RESTRICT ? ReferentialAction.NO_ACTION : action;
    }

    private static String places(List<String> all, List<String> some) {
        return some.stream().map(c -> String.valueOf(all.indexOf(c))).collect(Collectors.joining(","));
    }

    private static List<String> untold(TableDefinition meant, TableDefinition there, Map<String, List<String>> told) {
        Set<String> lost = parts(meant);
        lost.removeAll(parts(there));
        return lost.isEmpty() || told.containsKey(meant.name().toString())
                ? List.of()
                : lost.stream().map(l -> meant.name() + ": " + l).toList();
    }

    private static Map<String, List<String>> told(TransferResult result, List<TableDefinition> tables) {
        Map<String, List<String>> told = new TreeMap<>();
        result.findings().forEach(f -> told.computeIfAbsent(f.table().toString(), t -> new ArrayList<>())
                .add(f.text()));
        // a thing left behind is named by its table first
        for (LeftBehind left : result.leftBehind()) {
            tables.stream()
                    .map(t -> t.name().toString())
                    .filter(t -> left.name().startsWith(t))
                    .forEach(
                            t -> told.computeIfAbsent(t, x -> new ArrayList<>()).add(left.reason()));
        }
        return told;
    }

    @ParameterizedTest(name = "{0}, {1}")
    @MethodSource("systemsAndSeeds")
    void aSystemTakesThemOrWhatItDoesntTakeIsTold(String system, long seed) {
        String url = TestSystem.of(system).fresh(folder);
        List<TableDefinition> tables = new GeneratedTables(seed).some(5);
        TransferResult result;
        try (TargetPlace target = Places.openTarget(url)) {
            result = Load.from(source(tables)).into(target);
        }
        try (Place there = Places.open(url)) {
            mustHold(there, tables, told(result, tables));
        }
        // and all of it goes away again for the next rehearsal
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(source(tables)).mode(LoadMode.REPLACE).into(target);
        }
        try (Place there = Places.open(url)) {
            assertThat(there.tables()).hasSameSizeAs(tables);
        }
    }

    static Stream<Arguments> scriptsAndSeeds() {
        return Stream.concat(TestSystem.names(), Stream.of("SqlServer", "Oracle"))
                .flatMap(system -> seeds(SEEDS).mapToObj(seed -> Arguments.of(system, seed)));
    }

    @ParameterizedTest(name = "{0}, {1}")
    @MethodSource("scriptsAndSeeds")
    void aScriptForASystemHoldsThemOrWhatItDoesntHoldIsTold(String system, long seed) {
        List<TableDefinition> tables = new GeneratedTables(seed).some(5);
        String script = folder.resolve("garden.sql").toString();
        OpenOptions options = OpenOptions.builder()
                .files(FileSettings.NONE.with("dialect", system.toLowerCase(Locale.ROOT)))
                .build();
        TransferResult result;
        try (TargetPlace target = Places.openTarget(PlaceAddress.of(script), options)) {
            result = Load.from(source(tables)).into(target);
        }
        try (Place there = Places.open(PlaceAddress.of(script), options)) {
            mustHold(there, tables, told(result, tables));
        }
    }

    static Stream<Arguments> pairsAndSeeds() {
        return TestSystem.names().flatMap(from -> TestSystem.names()
                .flatMap(to -> seeds(Math.max(1, SEEDS / 4)).mapToObj(seed -> Arguments.of(from, to, seed))));
    }

    @ParameterizedTest(name = "{0} to {1}, {2}")
    @MethodSource("pairsAndSeeds")
    void anotherSystemTakesWhatOneHasTaken(String from, String to, long seed) {
        String first = TestSystem.of(from).fresh(folder);
        String second = TestSystem.of(to).fresh(folder);
        try (TargetPlace target = Places.openTarget(first)) {
            List<TableDefinition> tables = new GeneratedTables(seed).some(5);
            Load.from(new GeneratedRows(seed).fill(tables, 40)).into(target);
        }
        try (Place source = Places.open(first)) {
            TransferResult result;
            try (TargetPlace target = Places.openTarget(second)) {
                result = Load.from(source).into(target);
            }
            try (Place there = Places.open(second)) {
                List<TableDefinition> tables =
                        source.tables().stream().map(source::define).toList();
                mustHold(there, tables, told(result, tables));
                // tables by other names are told, and can't be found by them
                if (result.findings().stream()
                        .noneMatch(f -> f.code() == FindingCode.NAME_CHANGED
                                && (!f.column().isEmpty() || f.text().startsWith("the table")))) {
                    assertThat(Reconcile.between(source, there).compare().tables())
                            .allMatch(t -> t.verdict() == Verdict.EQUAL);
                }
            }
        }
    }

    private static void mustHold(Place there, List<TableDefinition> tables, Map<String, List<String>> told) {
        List<String> lost = new ArrayList<>();
        assertThat(there.tables()).hasSameSizeAs(tables);
        for (int i : IntStream.range(0, tables.size()).toArray()) {
            TableName name = tables.get(i).name();
            if (there.tables().stream().noneMatch(t -> t.name().equals(name.name()))) {
                assertThat(told).containsKey(name.toString());
                continue;
            }
            TableName own = there.tables().stream()
                    .filter(t -> t.name().equals(name.name()))
                    .findFirst()
                    .orElseThrow();
            lost.addAll(untold(tables.get(i), there.define(own), told));
        }
        assertThat(lost).as(there.address() + " " + told).isEmpty();
    }
}
