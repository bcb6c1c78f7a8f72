package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What follows a record that goes or is changed: systems take less of it than SQLite, and say so when all records are in. */
class ReferenceActionsTest {

    private static final int CASES = Integer.getInteger("ferry.definitions", 4);
    private static final long SEED = Long.getLong("ferry.seed", 7);

    private static final List<String> ACTIONS =
            List.of("NO ACTION", "RESTRICT", "CASCADE", "CASCADE", "SET NULL", "SET DEFAULT");

    @TempDir
    Path folder;

    private static TransferResult load(Place source, String to) {
        try (TargetPlace target = Places.openTarget(to)) {
            return Load.from(source).mode(LoadMode.REPLACE).into(target);
        }
    }

    private static List<String> tables(Random random) {
        int count = 2 + random.nextInt(5);
        List<String> statements = new ArrayList<>();
        for (int t = 0; t < count; t++) {
            StringBuilder sql = new StringBuilder("CREATE TABLE t" + t + " (id INTEGER NOT NULL PRIMARY KEY");
            int keys = random.nextInt(4);
            for (int k = 0; k < keys; k++) {
                sql.append(", r").append(t).append(k).append(" INTEGER");
                sql.append(random.nextBoolean() ? " NOT NULL" : "").append(random.nextBoolean() ? " DEFAULT 1" : "");
                sql.append(" REFERENCES t").append(random.nextInt(count)).append(" (id)");
                sql.append(" ON DELETE ").append(ACTIONS.get(random.nextInt(ACTIONS.size())));
                sql.append(" ON UPDATE ")
                        .append(random.nextInt(3) == 0 ? ACTIONS.get(random.nextInt(ACTIONS.size())) : "NO ACTION");
            }
            statements.add(sql.append(')').toString());
        }
        return statements;
    }

    /** Every reference comes; an action either comes as well, or is left behind by name. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.databases.AllTargets#names")
    void everyActionComesOrIsTold(String system) throws Exception {
        for (int number = 0; number < CASES; number++) {
            String from = TestSystem.SQLITE.fresh(folder);
            List<String> statements = tables(new Random(SEED * 1_000 + number));
            Databases.run(from, statements.toArray(String[]::new));
            String to = AllTargets.fresh(system, folder);
            try (Place source = Places.open(from)) {
                Set<String> left = load(source, to).leftBehind().stream()
                        .filter(l -> l.kind().equals("referential action"))
                        .map(LeftBehind::name)
                        .collect(Collectors.toSet());
                try (Place there = Places.open(to)) {
                    assertThat(Reconcile.between(source, there).compare().isEqual())
                            .isTrue();
                    List<ForeignKey> all = new ArrayList<>();
                    for (TableName name : there.tables()) {
                        all.addAll(there.define(name).foreignKeys());
                    }
                    for (TableName name : source.tables()) {
                        for (ForeignKey key : source.define(name).foreignKeys()) {
                            ForeignKey made = all.stream()
                                    .filter(k -> k.columns()
                                            .get(0)
                                            .equalsIgnoreCase(key.columns().get(0)))
                                    .findFirst()
                                    .orElseThrow(() -> new AssertionError(key + " is missing; " + statements));
                            boolean same =
                                    isSame(key.onDelete(), made.onDelete()) && isSame(key.onUpdate(), made.onUpdate());
                            assertThat(left.contains(name + "." + key.shown()))
                                    .as("%s became %s; %s", key, made, statements)
                                    .isEqualTo(!same);
                        }
                    }
                    if (system.equals("SQL Server")) {
                        assertThat(mostWays(all, there.tables()))
                                .as("%s", statements)
                                .isLessThan(2);
                    }
                }
            }
        }
    }

    private static boolean isSame(ReferentialAction one, ReferentialAction other) {
        // the one is checked at once and the other at the statement's end; some systems have but one of them
        return one == other || !one.isWriting() && !other.isWriting();
    }

    /** The largest number of ways from one table to another, itself included, that lead over actions; found by walking them all. */
    private int mostWays(List<ForeignKey> all, List<TableName> tables) {
        int most = 0;
        for (TableName root : tables) {
            Map<String, Integer> ways = new HashMap<>();
            walk(root.name(), all, ways, 0, tables.size());
            most = Math.max(most, ways.values().stream().mapToInt(w -> w).max().orElse(0));
            most = Math.max(most, ways.containsKey(root.name()) ? 2 : 0);
        }
        return most;
    }

    private void walk(String from, List<ForeignKey> all, Map<String, Integer> ways, int depth, int most) {
        if (depth > most) {
            return;
        }
        for (ForeignKey key : all) {
            if (key.target().name().equals(from)
                    && (key.onDelete().isWriting() || key.onUpdate().isWriting())) {
                // a referring column is called after its table
                String to = "t" + key.columns().get(0).charAt(1);
                ways.merge(to, 1, Integer::sum);
                walk(to, all, ways, depth + 1, most);
            }
        }
    }

    private static List<String> beds(String more) {
        return List.of(
                "CREATE TABLE garden (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE bed (id INTEGER NOT NULL PRIMARY KEY, garden INTEGER REFERENCES garden (id) ON DELETE CASCADE"
                        + more + ")",
                "CREATE TABLE label (id INTEGER NOT NULL PRIMARY KEY, bed INTEGER REFERENCES bed (id) ON DELETE CASCADE,"
                        + " garden INTEGER REFERENCES garden (id) ON DELETE SET NULL)");
    }

    /** A script that its server would stop at is no better than a load. */
    @Test
    void aScriptForSqlServerHasOneWayToEachTable() throws Exception {
        String from = TestSystem.SQLITE.fresh(folder);
        Databases.run(
                from,
                beds(", beside INTEGER REFERENCES bed (id) ON DELETE SET NULL").toArray(String[]::new));
        PlaceAddress script = PlaceAddress.of(folder.resolve("beds.sql").toString());
        OpenOptions options = OpenOptions.builder()
                .files(FileSettings.NONE.with("dialect", "sqlserver"))
                .build();
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(script, options)) {
            assertThat(Load.from(source).into(target).leftBehind())
                    .filteredOn(l -> l.kind().equals("referential action"))
                    .extracting(LeftBehind::name, LeftBehind::reason)
                    .containsExactlyInAnyOrder(
                            tuple("bed.beside", "in SQL Server no record can so follow another one of its own table"),
                            tuple("label.garden", "records would follow others by more ways than SQL Server takes"));
        }
        assertThat(Files.readString(folder.resolve("beds.sql")))
                .contains("REFERENCES [bed] ([id]) ON DELETE CASCADE")
                .doesNotContain("SET NULL");
    }

    /** What is there counts as well: its references lead on from the tables that come. */
    @Test
    void tablesThatAreThereLeadOn() throws Exception {
        String from = TestSystem.SQLITE.fresh(folder);
        Databases.run(from, beds("").toArray(String[]::new));
        // to Derby a reference that refuses is a way as well
        Map<String, List<String>> lost =
                Map.of("SQL Server", List.of("label.garden"), "Derby", List.of("label.bed", "label.garden"));
        for (String system : lost.keySet()) {
            String to = AllTargets.fresh(system, folder);
            try (Place source = Places.open(from)) {
                try (TargetPlace target = Places.openTarget(to)) {
                    Load.from(source).tables("garden", "bed").into(target);
                }
                try (TargetPlace target = Places.openTarget(to)) {
                    TransferResult result = Load.from(source).tables("label").into(target);
                    assertThat(result.leftBehind())
                            .as(system)
                            .extracting(LeftBehind::name)
                            .containsExactlyElementsOf(lost.get(system));
                }
            }
        }
    }
}
